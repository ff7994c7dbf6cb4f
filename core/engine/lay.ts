import { mixer } from '../colour/mixes';
import { luma } from '../colour/srgb';
import type { Point } from '../steps/define';
import { stepKind } from '../steps';
import type { Range, Step, Treatment } from '../treatment/schema';

/** The height of a reach at a tone: see the treatment format. Equal ends are a hard edge. */
export function reachAt([a, b, c, d]: Range, tone: number): number {
  if (tone < a || tone > d) return (tone < a && b <= 0) || (tone > d && c >= 1) ? 1 : 0;
  if (tone < b) return (tone - a) / (b - a);
  if (tone > c) return (d - tone) / (d - c);
  return 1;
}

const isWhole = (r: Range) => r[1] <= 0 && r[2] >= 1;

/** Whether a step is laid on with full weight everywhere, nothing of what is beneath showing through. */
export function coversFully(step: Step): boolean {
  return (
    step.strength === 1 && step.mix === 'normal' && isWhole(step.reach.own) && isWhole(step.reach.beneath)
  );
}

/**
 * One step laid on what is beneath it:
 * `beneath + weight · (M(beneath, own) − beneath)`, weight = strength · reach(own) · reach(beneath).
 */
export function layOn(step: Step): Point {
  const kind = stepKind(step.kind);
  if (!kind) throw new RangeError(`unknown step kind ${step.kind}`);
  const own = kind.point(step.settings);
  if (coversFully(step)) return own;

  const mix = mixer(step.mix);
  const { strength } = step;
  const limitOwn = isWhole(step.reach.own) ? null : step.reach.own;
  const limitBeneath = isWhole(step.reach.beneath) ? null : step.reach.beneath;
  const beneath = new Float64Array(3);
  return c => {
    beneath.set(c);
    own(c);
    let weight = strength;
    if (limitOwn) weight *= reachAt(limitOwn, luma(c[0], c[1], c[2]));
    if (limitBeneath) weight *= reachAt(limitBeneath, luma(beneath[0], beneath[1], beneath[2]));
    mix(beneath, c);
    for (let i = 0; i < 3; i++) c[i] = beneath[i] + weight * (c[i] - beneath[i]);
  };
}

/** The steps that do anything: those that are on and have strength. */
export function activeSteps(treatment: Treatment): Step[] {
  if (treatment.strength === 0) return [];
  return treatment.steps.filter(s => s.enabled && s.strength > 0);
}

/** A whole treatment as one exact function of a colour: the reference that every plan is checked against. */
export function exactly(treatment: Treatment): Point {
  const points = activeSteps(treatment).map(layOn);
  const { strength } = treatment;
  const bare = new Float64Array(3);
  return c => {
    bare.set(c);
    for (const point of points) point(c);
    if (strength < 1) for (let i = 0; i < 3; i++) c[i] = bare[i] + strength * (c[i] - bare[i]);
  };
}
