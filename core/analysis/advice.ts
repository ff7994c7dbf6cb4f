import { luma } from '../colour/srgb';
import { newStep, placeStep } from '../treatment/edit';
import { stepKind } from '../steps';
import type { KindAdvice } from '../steps/define';
import type { Step, Treatment } from '../treatment/treatment';

/** What the picture, or what it is set to, says about a step. */
export type Advice =
  /** A toner stands on black that takes no colour; `share` of the picture is solid black. */
  | { what: 'solid-black'; share: number }
  /** The step takes `share` of the picture to pure white that was not. */
  | { what: 'clips-lights'; share: number }
  /** Nothing in the picture changes with it, though it is set. */
  | { what: 'does-nothing' }
  | KindAdvice;

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

/** Pictures (8-bit codes) of the same size, beneath a step and with it. */
export interface Seen {
  before: ArrayLike<number>;
  after: ArrayLike<number>;
  /** Numbers a pixel. */
  stride: 3 | 4;
}

/** The most by which any number of a pixel differs. */
function mostChange({ before, after, stride }: Seen): number {
  let most = 0;
  for (let i = 0; i < before.length; i += stride) {
    for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(after[i + k] - before[i + k]));
  }
  return most;
}

/** Whether there is anything to be said of a step: it is on, and has where to lie. */
export function isSpokenOf(step: Step, { masks }: Pick<Treatment, 'masks'>): boolean {
  if (!step.enabled || step.strength === 0) return false;
  const area = masks.find(m => m.id === step.mask);
  // An area that nothing has been added to is about to be painted.
  return !area || area.invert || area.parts.length > 0;
}

/**
 * Advice on one step.
 * @param small of the whole picture
 * @param natural of some places at their natural size, for a step that is seen there only: whether it does anything is
 *   judged by them
 * @returns the most useful one first; none for a step that is off or has no area yet
 */
export function adviceOn(
  treatment: Treatment,
  stepId: string,
  small: Seen,
  natural: readonly Seen[] = [],
): Advice[] {
  const step = treatment.steps.find(s => s.id === stepId);
  if (!step || !isSpokenOf(step, treatment)) return [];
  const kind = stepKind(step.kind)!;
  const { before, after, stride } = small;
  const count = before.length / stride;
  let black = 0;
  let lost = 0;
  const white = (codes: ArrayLike<number>, i: number) =>
    Math.min(codes[i], codes[i + 1], codes[i + 2]) >= LOST;
  for (let i = 0; i < before.length; i += stride) {
    if (luma(before[i], before[i + 1], before[i + 2]) <= SOLID) black++;
    if (white(after, i) && !white(before, i)) lost++;
  }
  const said: Advice[] = [...(kind.advise?.(step.settings, step.mix) ?? [])];
  if (kind.coloursTones && black / count >= MUCH_BLACK) {
    said.push({ what: 'solid-black', share: black / count });
  }
  if (lost / count >= MUCH_LOST) said.push({ what: 'clips-lights', share: lost / count });
  const judged = kind.seenNatural ? natural : [small];
  const same = judged.length > 0 && judged.every(seen => mostChange(seen) <= SAME);
  if (same && isSet(step)) said.push({ what: 'does-nothing' });
  return said;
}

/** Whether a step is judged at its natural size, at some places. */
export const judgedNatural = (step: Step): boolean => stepKind(step.kind)?.seenNatural ?? false;

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
