import { luma } from '../colour/srgb';
import { newStep, placeStep } from '../treatment/edit';
import { stepKind } from '../steps';
import type { Step, Treatment } from '../treatment/schema';

/** What the picture says about a step. */
export type Advice =
  /** A toner stands on black that takes no colour; `share` of the picture is solid black. */
  | { what: 'solid-black'; share: number }
  /** The step takes `share` of the picture to pure white that was not. */
  | { what: 'clips-lights'; share: number }
  /** Nothing in the picture changes with it, though it is set. */
  | { what: 'does-nothing' };

/** Luma (of 255) up to which a pixel is solid black on paper, and the share of it that is worth a word. */
const SOLID = 3;
const MUCH_BLACK = 0.04;
/** Codes from which a channel is lost, and the share of newly lost pixels that is worth a word. */
const LOST = 254;
const MUCH_LOST = 0.015;
/** Codes by which a pixel may differ and still be the same to the eye. */
const SAME = 1;

/** Whether a step is set to anything but what a new one of its kind is. */
const isSet = (step: Step): boolean =>
  JSON.stringify(step.settings) !== JSON.stringify(stepKind(step.kind)!.defaults);

/**
 * Advice on one step, from small pictures (8-bit codes) of the same size.
 * @param before the picture beneath the step
 * @param after the picture with the step
 * @param stride numbers a pixel
 * @returns the most useful one first; none for a step that is off
 */
export function adviceOn(
  step: Step,
  before: ArrayLike<number>,
  after: ArrayLike<number>,
  stride: 3 | 4,
): Advice[] {
  if (!step.enabled || step.strength === 0) return [];
  const count = before.length / stride;
  let black = 0;
  let lost = 0;
  let most = 0;
  for (let i = 0; i < before.length; i += stride) {
    if (luma(before[i], before[i + 1], before[i + 2]) <= SOLID) black++;
    const white = (codes: ArrayLike<number>) => Math.min(codes[i], codes[i + 1], codes[i + 2]) >= LOST;
    if (white(after) && !white(before)) lost++;
    for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(after[i + k] - before[i + k]));
  }
  const said: Advice[] = [];
  if (stepKind(step.kind)!.coloursTones && black / count >= MUCH_BLACK) {
    said.push({ what: 'solid-black', share: black / count });
  }
  if (lost / count >= MUCH_LOST) said.push({ what: 'clips-lights', share: lost / count });
  // What is seen at natural size only is not judged by small pictures.
  const { seenNatural } = stepKind(step.kind)!;
  if (most <= SAME && isSet(step) && !seenNatural) said.push({ what: 'does-nothing' });
  return said;
}

/** How far black is lifted, of 1: as on a matte print, enough for a toner to take hold. */
const LIFT = 0.09;

/** A curve before a step that lifts solid black to a deep grey. */
export function liftBlackBefore(treatment: Treatment, stepId: string): Treatment {
  const step = treatment.steps.find(s => s.id === stepId);
  if (!step) return treatment;
  const curve = newStep(treatment, 'curve', step.stage);
  const lifted = {
    ...curve,
    settings: {
      ...curve.settings,
      points: {
        ...(curve.settings as Step<'curve'>['settings']).points,
        all: [
          [0, LIFT],
          [0.25, 0.25 + LIFT * 0.5],
          [1, 1],
        ],
      },
    },
  } as Step;
  const inStage = treatment.steps.filter(s => s.stage === step.stage);
  return placeStep(
    { ...treatment, steps: [...treatment.steps, lifted] },
    lifted.id,
    step.stage,
    inStage.indexOf(step),
  );
}
