import { mixer } from '../colour/mixes';
import type { Triple } from '../colour/oklab';
import { luma } from '../colour/srgb';
import { tableOf } from '../formats/carried';
import { isWhole, reachAt } from '../masks/reach';
import type { Point, StepContext } from '../steps/define';
import { stepKind } from '../steps';
import { isAtWork } from '../treatment/alternatives';
import { runsOf } from '../treatment/groups';
import type { Step, Treatment } from '../treatment/treatment';

/** Whether what a step makes is laid on as it is: no mix, no range of tones. */
export function isPlain(step: Step): boolean {
  return (
    step.mix === 'normal' &&
    isWhole(step.reach.own) &&
    isWhole(step.reach.beneath) &&
    !kindOf(step).overMix?.(step.settings)
  );
}

/** Whether a step is laid on with full weight everywhere, nothing of what is beneath showing through. */
export function coversFully(step: Step): boolean {
  return step.mask === null && step.strength === 1 && isPlain(step);
}

/** The definition of a step's kind. */
export function kindOf(step: Step) {
  const kind = stepKind(step.kind);
  if (!kind) throw new RangeError(`unknown step kind ${step.kind}`);
  return kind;
}

/**
 * How what a step makes is laid on what is beneath it:
 * `beneath + weight · (M(beneath, own) − beneath)`, weight = strength · reach(own) · reach(beneath).
 * The returned function leaves the result in `own`; a mask's coverage, where there is one, multiplies the
 * strength.
 */
export function layer(step: Step): (beneath: Triple, own: Triple, coverage: number) => void {
  const mix = mixer(step.mix);
  const overMix = kindOf(step).overMix?.(step.settings);
  const alone = new Float64Array(3);
  const limitOwn = isWhole(step.reach.own) ? null : step.reach.own;
  const limitBeneath = isWhole(step.reach.beneath) ? null : step.reach.beneath;
  return (beneath, own, coverage) => {
    let weight = step.strength * coverage;
    if (limitOwn) weight *= reachAt(limitOwn, luma(own[0], own[1], own[2]));
    if (limitBeneath) weight *= reachAt(limitBeneath, luma(beneath[0], beneath[1], beneath[2]));
    if (overMix) alone.set(own);
    mix(beneath, own);
    if (overMix) overMix(beneath, alone, own);
    for (let i = 0; i < 3; i++) own[i] = beneath[i] + weight * (own[i] - beneath[i]);
  };
}

/** A step whose own is a function of colour, laid on; its mask is left to the caller. */
export function layOn(step: Step, context: StepContext): Point {
  const own = kindOf(step).point(step.settings, context);
  if (coversFully({ ...step, mask: null })) return own;
  const lay = layer(step);
  const beneath = new Float64Array(3);
  return c => {
    beneath.set(c);
    own(c);
    lay(beneath, c, 1);
  };
}

/** What the steps of a treatment may use. */
export function contextOf(treatment: Treatment): StepContext {
  const tableNamed = (id: string) => {
    const reference = treatment.tables[id];
    return reference && tableOf(reference);
  };
  return { tableNamed, ground: new Float64Array(3) };
}

/** The steps that do anything: those that are on and have strength, and whose group has. */
export function activeSteps(treatment: Treatment): Step[] {
  if (treatment.strength === 0) return [];
  const none = new Set(treatment.groups.filter(g => g.strength === 0).map(g => g.id));
  return treatment.steps.filter(
    s => isAtWork(s) && s.strength > 0 && !(s.group !== null && none.has(s.group)),
  );
}

/** Neighbouring steps that are laid on together in part. */
export interface Together {
  steps: Step[];
  /** 0..1 */
  strength: number;
}

/** A step by itself, or several together. */
export type Item = Step | Together;

export const isTogether = (item: Item): item is Together => 'steps' in item;

/** The steps of an item. */
export const stepsOf = (item: Item): Step[] => (isTogether(item) ? item.steps : [item]);

/** Steps in order as items: those of a group with less than its whole strength together. */
export function itemsOf(steps: readonly Step[], groups: Treatment['groups']): Item[] {
  return runsOf(steps).flatMap(({ group, steps: run }): Item[] => {
    const strength = groups.find(g => g.id === group)?.strength ?? 1;
    return strength < 1 ? [{ steps: run, strength }] : run;
  });
}

/** Whether a step can be told colour by colour: it has no mask, and what it makes looks at no neighbours. */
export function fitsTable(step: Step, context: StepContext): boolean {
  return step.mask === null && !step.alone && !kindOf(step).field?.(step.settings, context);
}

/** Whether a step sees each colour alone, with nothing done to the picture before. */
export function isPointStep(step: Step, context: StepContext): boolean {
  return fitsTable(step, context) && !kindOf(step).prepares?.(step.settings);
}

/**
 * Steps one after another as one exact function of a colour, the ground noted after the first `groundSteps`
 * of them (and before each step until then, so that a ground step's ground is what is beneath it).
 */
export function inTurn(items: readonly Item[], groundSteps: number, context: StepContext): Point {
  const usesGround = items.some(item => stepsOf(item).some(s => kindOf(s).usesGround));
  let count = 0;
  const pointOf = (step: Step): Point => {
    const point = layOn(step, context);
    const notes = usesGround && count++ <= groundSteps;
    if (!notes) return point;
    return c => {
      context.ground.set(c);
      point(c);
    };
  };
  const all = (points: readonly Point[]): Point => {
    const [only] = points;
    if (points.length === 1) return only;
    return c => {
      for (let i = 0; i < points.length; i++) points[i](c);
    };
  };
  const points = items.map(item => {
    if (!isTogether(item)) return pointOf(item);
    const together = all(item.steps.map(pointOf));
    const { strength } = item;
    const beneath = new Float64Array(3);
    return (c: Triple) => {
      beneath.set(c);
      together(c);
      for (let k = 0; k < 3; k++) c[k] = beneath[k] + strength * (c[k] - beneath[k]);
    };
  });
  return all(points);
}

/** How many of the first steps stand in the Ground stage. */
export const groundStepsOf = (steps: readonly Step[]): number => {
  const end = steps.findIndex(s => s.stage !== 'ground');
  return end < 0 ? steps.length : end;
};

/**
 * A treatment whose steps can be told colour by colour as one exact function of a colour: the reference that every
 * plan is checked against. Throws a RangeError that names a step with a mask or one that looks at neighbours.
 */
export function exactly(treatment: Treatment): Point {
  const context = contextOf(treatment);
  const steps = activeSteps(treatment);
  for (const step of steps) {
    if (!fitsTable(step, context)) throw new RangeError(`${step.id} (${step.kind}) needs a picture`);
  }
  const all = inTurn(itemsOf(steps, treatment.groups), groundStepsOf(steps), context);
  const { strength } = treatment;
  if (strength === 1) return all;
  const bare = new Float64Array(3);
  return c => {
    bare.set(c);
    all(c);
    if (steps.length) for (let i = 0; i < 3; i++) c[i] = bare[i] + strength * (c[i] - bare[i]);
  };
}
