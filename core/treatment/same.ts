import { byId } from '../masks/mask';
import { standingOn } from '../masks/standing';
import type { Step, Treatment } from './treatment';

/** Whether two treatments make the same picture, told at once by what they have in common. */

/** The masks that a step depends on, and the table that it reads. */
function under({ masks, tables }: Treatment, step: Step): unknown[] {
  const { table } = step.settings as { table?: string | null };
  const standing = step.mask === null ? [] : standingOn(byId(masks, step.mask), masks);
  return table ? [...standing, tables[table]?.sha256] : standing;
}

/**
 * Whether two treatments surely make the same picture: their steps are the same objects, and so is all that these stand
 * on. False where they may not.
 */
export function looksTheSame(a: Treatment, b: Treatment): boolean {
  if (a === b) return true;
  return (
    a.strength === b.strength &&
    a.frame === b.frame &&
    a.steps.length === b.steps.length &&
    a.steps.every((step, i) => {
      if (step !== b.steps[i]) return false;
      const [one, other] = [under(a, step), under(b, step)];
      return one.length === other.length && one.every((each, k) => each === other[k]);
    })
  );
}
