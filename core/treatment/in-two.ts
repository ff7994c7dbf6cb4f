import { byId } from '../masks/mask';
import { edgeDraw, readsPicture } from '../masks/standing';
import { stepKind } from '../steps';
import { isAtWork } from './alternatives';
import { firstSteps } from './beneath';
import type { Step, Treatment } from './treatment';

/**
 * A treatment as two that are laid on one after the other: what many have in common is then rendered once. Null where the
 * second would not see what it sees in the whole: where a group or the whole is laid on in part across the cut, or a step behind
 * it, or its area, reads the ground.
 * @param count how many steps the first has
 */
export function inTwo(treatment: Treatment, count: number): { first: Treatment; rest: Treatment } | null {
  const { steps, groups, masks } = treatment;
  if (count <= 0 || treatment.strength !== 1) return null;
  const [before, after] = [steps[count - 1], steps[count]];
  const cut = before && after && before.group !== null && before.group === after.group ? before.group : null;
  if (cut !== null && groups.find(g => g.id === cut)?.strength !== 1) return null;
  const rest = steps.slice(count);
  const readsGround = (id: string) => {
    const mask = byId(masks, id);
    return readsPicture(mask, masks, 'ground') || edgeDraw(mask, masks) > 0;
  };
  const onGround = ({ kind, mask }: Step) =>
    stepKind(kind)?.usesGround === true || (mask !== null && readsGround(mask));
  if (rest.some(s => isAtWork(s) && onGround(s))) return null;
  return { first: firstSteps(treatment, count), rest: { ...treatment, steps: rest } };
}
