import { byId } from '../masks/mask';
import { standingOn } from '../masks/standing';
import type { Step, Treatment } from './treatment';
import { heldBy, looksOf, type SharedLook } from './shared';

/** What was changed of a look where it is used: noted at its steps, so that it stays. */

/** What a step has beside its settings and follows as well. */
export const OWN = ['enabled', 'strength', 'mix', 'reach', 'name'] as const;
export const MASK = 'step.mask';
export const PLACE = 'step.place';

const isSame = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The area that a step lies on, with those that it stands on. */
const areasOf = ({ mask }: Step, { masks }: Treatment) =>
  mask === null ? [] : standingOn(byId(masks, mask), masks);

/** Whether two steps lie on the same area, whatever its ids are in their treatments. */
export function isSameArea(a: Step, inA: Treatment, b: Step, inB: Treatment): boolean {
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
