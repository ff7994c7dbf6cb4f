import { stages } from '../steps/define';
import { byId } from '../masks/mask';
import { standingOn } from '../masks/standing';
import { freshId } from './edit';
import { groupBetween, tidyGroups } from './groups';
import { layTreatment, partOf } from './laying';
import { MOST_STEPS, type Step, type StepLook, type Treatment } from './schema';

/**
 * Looks that a series shares: the steps that came from one follow it when it is changed, each keeping what was changed of it
 * where it is.
 */
export interface SharedLook {
  id: string;
  revision: number;
  /** Its steps; their ids are theirs for good. */
  treatment: Treatment;
  /** The revision with which each of its steps came, by their ids. */
  since: Record<string, number>;
}

/** A step that follows a look. */
type Held = Step & { look: StepLook };

export const isHeldBy = (step: Step, lookId: string): step is Held => step.look?.id === lookId;

/** The steps of a treatment that follow a look. */
export const heldBy = (treatment: Treatment, lookId: string): Held[] =>
  treatment.steps.filter(s => isHeldBy(s, lookId));

/** The looks that a treatment's steps follow. */
export const looksOf = ({ steps }: Treatment): string[] => [
  ...new Set(steps.flatMap(({ look }) => (look ? [look.id] : []))),
];

/** What a step has beside its settings and follows as well. */
const OWN = ['enabled', 'strength', 'mix', 'reach', 'name'] as const;
const MASK = 'step.mask';
const PLACE = 'step.place';

const isSame = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The area that a step lies on, with those that it stands on. */
const areasOf = ({ mask }: Step, { masks }: Treatment) =>
  mask === null ? [] : standingOn(byId(masks, mask), masks);

/** Whether two steps lie on the same area, whatever its ids are in their treatments. */
function isSameArea(a: Step, inA: Treatment, b: Step, inB: Treatment): boolean {
  const [one, other] = [areasOf(a, inA), areasOf(b, inB)];
  if (one.length !== other.length) return false;
  // Mostly they are the same objects: strokes are long to be written out.
  if (one.every((mask, i) => mask === other[i])) return true;
  const text = (all: typeof one) => {
    const places = new Map(all.map((m, i) => [m.id, String(i)]));
    return JSON.stringify(all, (key, value: unknown) =>
      (key === 'id' || key === 'mask') && typeof value === 'string' ? (places.get(value) ?? value) : value,
    );
  };
  return text(one) === text(other);
}

/** Settings as they are anywhere: a colour table by what it is, not by its id in one treatment. */
function settingsOf({ settings }: Step, { tables }: Treatment): Record<string, unknown> {
  const { table } = settings as { table?: string | null };
  return typeof table === 'string' ? { ...settings, table: tables[table]?.sha256 } : { ...settings };
}

/** What differs between two states of one step, by the names that `changed` has. */
function differing(a: Step, inA: Treatment, b: Step, inB: Treatment): string[] {
  const [before, after] = [settingsOf(a, inA), settingsOf(b, inB)];
  const found = Object.keys(after).filter(key => !isSame(before[key], after[key]));
  for (const key of OWN) if (!isSame(a[key], b[key])) found.push(`step.${key}`);
  if (!isSameArea(a, inA, b, inB)) found.push(MASK);
  return found;
}

/** Whether a step follows a look as it did: what follows it otherwise than before was given or taken on purpose. */
const followsAsBefore = (step: Step, was: Step | undefined) =>
  step.look !== undefined && isSame(step.look, was?.look);

/**
 * Notes at steps that follow a look what an edit changed of them: that stays as it is here. The same treatment where nothing
 * is to be noted.
 */
export function withOwnChanges(before: Treatment, after: Treatment): Treatment {
  if (after.steps === before.steps && after.masks === before.masks) return after;
  const old = new Map(before.steps.map(s => [s.id, s]));
  const noted = new Map<Step, string[]>();
  for (const step of after.steps) {
    const was = old.get(step.id);
    if (!followsAsBefore(step, was)) continue;
    const isUntouched = was === step && after.masks === before.masks;
    if (!isUntouched) noted.set(step, differing(was!, before, step, after));
  }
  for (const id of looksOf(after)) {
    const there = heldBy(after, id).filter(s => followsAsBefore(s, old.get(s.id)));
    const came = before.steps.filter(s => there.some(t => t.id === s.id));
    there.forEach((step, i) => {
      const isMoved = came[i].id !== step.id || old.get(step.id)!.stage !== step.stage;
      if (isMoved) noted.set(step, [...(noted.get(step) ?? []), PLACE]);
    });
  }
  const isNew = (step: Step, keys: string[]) => keys.some(key => !step.look!.changed.includes(key));
  if (![...noted].some(([step, keys]) => isNew(step, keys))) return after;
  return {
    ...after,
    steps: after.steps.map(step => {
      const keys = noted.get(step);
      if (!keys?.length) return step;
      const changed = [...new Set([...step.look!.changed, ...keys])].toSorted();
      return { ...step, look: { ...step.look!, changed } } as Step;
    }),
  };
}

/** Steps that a look was made of, in its order, as ones that follow it from now on. */
export function linked(
  treatment: Treatment,
  ids: readonly string[],
  { id, revision, treatment: { steps } }: Omit<SharedLook, 'since'>,
): Treatment {
  const links = new Map(ids.map((stepId, i) => [stepId, steps[i].id]));
  return {
    ...treatment,
    steps: treatment.steps.map(s => {
      const step = links.get(s.id);
      return step === undefined ? s : ({ ...s, look: { id, revision, step, changed: [] } } as Step);
    }),
  };
}

/**
 * A treatment made as a look is, before it was shared: its steps follow the look's of their kinds, in their order, but for
 * what differs.
 */
export function followingByKind(treatment: Treatment, look: Omit<SharedLook, 'since'>): Treatment {
  const { id, revision } = look;
  const free = [...look.treatment.steps];
  return {
    ...treatment,
    steps: treatment.steps.map(step => {
      const at = free.findIndex(of => of.kind === step.kind);
      if (at < 0) return step;
      const [of] = free.splice(at, 1);
      const changed = differing(of, look.treatment, step, treatment).toSorted();
      return { ...step, look: { id, revision, step: of.id, changed } } as Step;
    }),
  };
}

/** A look as it is laid on so that what comes of it follows it. */
export const toFollow = (look: Omit<SharedLook, 'since'>): Treatment =>
  linked(
    look.treatment,
    look.treatment.steps.map(s => s.id),
    look,
  );

/** A treatment whose steps follow no other looks than these: what came from another series is the photograph's own. */
export const followingOnly = (treatment: Treatment, lookIds: readonly string[]): Treatment =>
  looksOf(treatment)
    .filter(id => !lookIds.includes(id))
    .reduce(letGo, treatment);

/** Steps without the look that they followed: they are the photograph's own. */
export const letGo = (treatment: Treatment, lookId: string): Treatment => ({
  ...treatment,
  steps: treatment.steps.map(s => {
    if (!isHeldBy(s, lookId)) return s;
    const { look: _, ...own } = s;
    return own;
  }),
});

/** A treatment whose steps say that they are as a look is now. */
export const withRevision = (
  treatment: Treatment,
  { id, revision }: Pick<SharedLook, 'id' | 'revision'>,
) => ({
  ...treatment,
  steps: treatment.steps.map(s => (isHeldBy(s, id) ? ({ ...s, look: { ...s.look, revision } } as Step) : s)),
});

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
    mask: isAreaKept ? held.mask : came.mask,
    settings: { ...came.settings, ...own },
    look: { id: of.id, revision: of.revision, step, changed },
  } as Step;
}

/** What takes the place of steps in a stage: each of them, or what fills the places that a look's steps have there. */
function refilled(steps: readonly Step[], isSlot: (s: Step) => boolean, fill: readonly Step[]): Step[] {
  const slots = steps.filter(isSlot);
  const last = slots.at(-1);
  const rest = fill.slice(slots.length).map(s => ({ ...s, group: last?.group ?? null }) as Step);
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
function withoutLeft(treatment: Treatment, before: Treatment, of: readonly Step[]): Treatment {
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
  return {
    ...treatment,
    masks: masks.filter(({ id }) => isArea(id)),
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
export function following(treatment: Treatment, look: SharedLook): Treatment {
  const all = heldBy(treatment, look.id);
  if (all.length === 0) return treatment;
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
  const moves = (held: Step) =>
    isHeldBy(held, look.id) &&
    first.get(held.look.step) === held &&
    !held.look.changed.includes(PLACE) &&
    isHeldBy(settled.get(held) ?? held, look.id);

  let known = treatment;
  const fresh = (step: Step, of: string): Step => {
    const made = { ...step, id: freshId(known), group: null } as Step;
    known = { ...known, steps: [...known.steps, made] };
    return { ...made, look: { id: look.id, revision: look.revision, step: of, changed: [] } };
  };
  const fill = wanted.flatMap(w => {
    const held = first.get(w.id);
    if (!held) return [fresh(came.get(w.id)!, w.id)];
    const now = settled.get(held);
    return moves(held) && now ? [{ ...now, stage: w.stage } as Step] : [];
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
  return tidyGroups(withoutLeft({ ...treatment, steps: settledSteps, masks, tables }, treatment, all));
}

/** A step as its look has it, with nothing changed here. */
export function asShared(treatment: Treatment, stepId: string, look: SharedLook): Treatment {
  const steps = treatment.steps.map(s =>
    s.id === stepId && s.look ? ({ ...s, look: { ...s.look, changed: [] } } as Step) : s,
  );
  return following({ ...treatment, steps }, look);
}

/** A look's treatment with one of its steps as it is here. */
export function withStepOf(look: SharedLook, treatment: Treatment, stepId: string): Treatment {
  const step = treatment.steps.find(s => s.id === stepId);
  const at = look.treatment.steps.findIndex(s => s.id === step?.look?.step);
  if (!step || at < 0) return look.treatment;
  const old = look.treatment.steps[at];
  const bare = { ...look.treatment, steps: [], groups: [] };
  const laying = { how: 'added', frame: false, painted: true } as const;
  const { treatment: laid } = layTreatment(bare, partOf(treatment, [stepId]), laying);
  const { look: _, ...now } = laid.steps[0];
  const kept = isSameArea(step, treatment, old, look.treatment) ? { mask: old.mask } : {};
  const made = { ...now, ...kept, id: old.id, group: old.group, stage: old.stage } as Step;
  const { masks, tables } = laid;
  const steps = look.treatment.steps.with(at, made);
  return withoutLeft({ ...look.treatment, steps, masks, tables }, look.treatment, [old]);
}

/** Steps of a treatment as those of a look: ones that follow it already keep the ids that they have in it. */
export function asLook(treatment: Treatment, ids: readonly string[], lookId: string | null): Treatment {
  const part = partOf(treatment, ids);
  const taken = new Set<string>();
  const named = part.steps.map(s => (lookId !== null && isHeldBy(s, lookId) ? s.look.step : null));
  return {
    ...part,
    steps: part.steps.map((s, i) => {
      let id = named[i];
      for (let n = i + 1; id === null || taken.has(id); n++) {
        const free = `n${n}`;
        id = named.includes(free) || taken.has(free) ? null : free;
      }
      taken.add(id);
      const { look: _, ...own } = s;
      return { ...own, id } as Step;
    }),
  };
}

/**
 * A look's next state: steps that it had keep their ids, the others get new ones that none ever had. One that comes again
 * after it was gone counts as new.
 */
export function nextRevision(look: SharedLook | null, treatment: Treatment): Omit<SharedLook, 'id'> {
  const revision = (look?.revision ?? 0) + 1;
  const since = { ...look?.since };
  const had = new Set(look?.treatment.steps.map(s => s.id));
  const steps = treatment.steps.map((s, i) => {
    const { look: _, ...step } = s;
    const id = Object.hasOwn(since, s.id) ? s.id : `r${revision}-${i + 1}`;
    if (!had.has(id)) since[id] = revision;
    return { ...step, id } as Step;
  });
  return { revision, since, treatment: { ...treatment, steps } };
}
