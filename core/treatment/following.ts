import { stages } from '../steps/define';
import { standingOn } from '../masks/standing';
import { tidyAlternatives, withSuccessors } from './alternatives';
import { freshId } from './edit';
import { groupBetween, tidyGroups } from './groups';
import { layTreatment, partOf } from './laying';
import { isSameArea, MASK, OWN, PLACE } from './own-changes';
import { MOST_STEPS, type Step, type Treatment } from './treatment';
import { heldBy, isHeldBy, letGo, type Held, type SharedLook } from './shared';

/** Treatments that follow a shared look after it was changed. */

/** A step as its look has it, but for what was changed of it here. */
function merged(held: Held, here: Treatment, came: Step, laid: Treatment, of: SharedLook): Step {
  const { changed, step } = held.look;
  const keeps = (key: string) => changed.includes(key);
  const own = Object.fromEntries(Object.entries(held.settings).filter(([key]) => keeps(key)));
  const frame = Object.fromEntries(OWN.filter(key => keeps(`step.${key}`)).map(key => [key, held[key]]));
  const isAreaKept = keeps(MASK) || isSameArea(held, here, came, laid);
  return {
    ...came,
    ...frame,
    id: held.id,
    group: held.group,
    stage: held.stage,
    // Which of several alternatives is at work is this photograph's own.
    alternative: held.alternative,
    mask: isAreaKept ? held.mask : came.mask,
    settings: { ...came.settings, ...own },
    look: { id: of.id, revision: of.revision, step, changed },
  } as Step;
}

/** What takes the place of steps in a stage: each of them, or what fills the places that a look's steps have there. */
function refilled(steps: readonly Step[], isSlot: (s: Step) => boolean, fill: readonly Step[]): Step[] {
  const slots = steps.filter(isSlot);
  const last = slots.at(-1);
  const rest = fill.slice(slots.length).map(s => (last ? ({ ...s, group: last.group } as Step) : s));
  const out = steps.flatMap(s => {
    if (!isSlot(s)) return [s];
    const i = slots.indexOf(s);
    const here = i < fill.length ? [{ ...fill[i], group: s.group } as Step] : [];
    return s === last ? [...here, ...rest] : here;
  });
  return last ? out : [...out, ...rest];
}

/** Steps of a look that have come between two of one group stand in it: it is not broken apart by them. */
function inGroupsAbout(steps: readonly Step[], came: ReadonlySet<string>): Step[] {
  const isLoose = (s: Step) => s.group === null && came.has(s.id);
  const out: Step[] = [];
  steps.forEach((step, i) => {
    const after = isLoose(step) ? steps.slice(i).find(s => !isLoose(s)) : undefined;
    const group = after ? groupBetween(out.at(-1), after) : null;
    out.push(group === null ? step : ({ ...step, group } as Step));
  });
  return out;
}

/** Without areas and tables that only steps of earlier on stood on. */
export function withoutLeft(treatment: Treatment, before: Treatment, of: readonly Step[]): Treatment {
  const { steps, masks } = treatment;
  const under = (all: readonly Step[], known: Treatment['masks']) =>
    new Set(
      all.flatMap(({ mask }) => {
        const own = known.find(m => m.id === mask);
        return own ? standingOn(own, known).map(m => m.id) : [];
      }),
    );
  const tablesOf = (all: readonly Step[]) =>
    new Set(all.map(({ settings }) => (settings as { table?: string | null }).table));
  const stays =
    (used: ReadonlySet<unknown>, was: ReadonlySet<unknown>, known: ReadonlySet<unknown>) => (id: string) =>
      used.has(id) || (known.has(id) && !was.has(id));
  const isArea = stays(under(steps, masks), under(of, before.masks), new Set(before.masks.map(m => m.id)));
  const isTable = stays(tablesOf(steps), tablesOf(of), new Set(Object.keys(before.tables)));
  // What stays keeps all that it stands on.
  const kept = new Set(
    masks.filter(({ id }) => isArea(id)).flatMap(mask => standingOn(mask, masks).map(m => m.id)),
  );
  return {
    ...treatment,
    masks: masks.filter(({ id }) => kept.has(id)),
    tables: Object.fromEntries(Object.entries(treatment.tables).filter(([id]) => isTable(id))),
  };
}

/**
 * A treatment whose steps follow a look as it is now:
 * - each as the look has it, but for what was changed of it here;
 * - one that the look has no more is gone, or is the photograph's own where it was changed here;
 * - one that came to the look since is there as well, one that was removed here before stays away.
 * The same treatment where none follows it. Throws a RangeError where there would be too many steps or areas.
 */
export function following(before: Treatment, look: SharedLook): Treatment {
  const stays = ({ kind, look: { step, changed } }: Held) =>
    changed.length > 0 || look.treatment.steps.some(s => s.id === step && s.kind === kind);
  const leaving = heldBy(before, look.id).filter(held => !stays(held));
  // Where one at work goes, the next of its alternatives is at work.
  const treatment = withSuccessors(
    before,
    leaving.map(s => s.id),
  );
  const all = heldBy(treatment, look.id);
  if (all.length === 0) return before;
  const revision = Math.min(...all.map(s => s.look.revision));
  const has = new Set(all.map(s => s.look.step));
  const wanted = look.treatment.steps.filter(s => has.has(s.id) || look.since[s.id] > revision);
  const { treatment: laid, laid: ids } = layTreatment(
    { ...treatment, steps: [], groups: [] },
    partOf(
      look.treatment,
      wanted.map(s => s.id),
    ),
    { how: 'added', frame: false, painted: true },
  );
  const came = new Map(wanted.map((s, i) => [s.id, laid.steps.find(l => l.id === ids[i])!]));

  const settled = new Map<Step, Step | null>();
  for (const held of all) {
    const now = came.get(held.look.step);
    if (now?.kind === held.kind) settled.set(held, merged(held, treatment, now, laid, look));
    else if (held.look.changed.length === 0) settled.set(held, null);
    else settled.set(held, letGo({ ...treatment, steps: [held] }, look.id).steps[0]);
  }
  const first = new Map<string, Held>();
  for (const held of all) if (!first.has(held.look.step)) first.set(held.look.step, held);
  const moves = (held: Step): held is Held =>
    isHeldBy(held, look.id) &&
    first.get(held.look.step) === held &&
    !held.look.changed.includes(PLACE) &&
    isHeldBy(settled.get(held) ?? held, look.id);

  /** It stands between two of its group that do not move. */
  const isAmid = (held: Held) => {
    const stays = (s: Step) => s.group === held.group && !moves(s);
    const at = treatment.steps.indexOf(held);
    return (
      held.group !== null && treatment.steps.slice(0, at).some(stays) && treatment.steps.slice(at).some(stays)
    );
  };

  let known = treatment;
  /** A step that came to the look stands in the group of the one before it, so that it is as strong as the look is here. */
  const fresh = (step: Step, of: string): Step => {
    const at = wanted.findIndex(w => w.id === of);
    const near = [...wanted.slice(0, at).toReversed(), ...wanted.slice(at)].find(w => first.has(w.id));
    const group = near ? first.get(near.id)!.group : null;
    const made = { ...step, id: freshId(known), group } as Step;
    known = { ...known, steps: [...known.steps, made] };
    return { ...made, look: { id: look.id, revision: look.revision, step: of, changed: [] } };
  };
  const fill = wanted.flatMap(w => {
    const held = first.get(w.id);
    if (!held) return [fresh(came.get(w.id)!, w.id)];
    const now = settled.get(held);
    if (!moves(held) || !now) return [];
    // What stood in a group since it was between two of it does so only as long as it is.
    const group = w.stage !== held.stage && isAmid(held) ? null : now.group;
    return [{ ...now, stage: w.stage, group } as Step];
  });
  const steps = stages.flatMap(stage =>
    refilled(
      treatment.steps.filter(s => s.stage === stage),
      moves,
      fill.filter(s => s.stage === stage),
    ).flatMap(s => {
      const now = settled.get(s);
      return now === undefined ? [s] : now ? [now] : [];
    }),
  );
  const settledSteps = inGroupsAbout(steps, new Set(fill.map(s => s.id)));
  if (steps.length > MOST_STEPS) throw new RangeError(`more than ${MOST_STEPS} steps`);
  const { masks, tables } = laid;
  const followed = withoutLeft({ ...treatment, steps: settledSteps, masks, tables }, treatment, all);
  return tidyAlternatives(tidyGroups(followed));
}

/** A step as its look has it, with nothing changed here. */
export function asShared(treatment: Treatment, stepId: string, look: SharedLook): Treatment {
  const steps = treatment.steps.map(s =>
    s.id === stepId && s.look ? ({ ...s, look: { ...s.look, changed: [] } } as Step) : s,
  );
  return following({ ...treatment, steps }, look);
}
