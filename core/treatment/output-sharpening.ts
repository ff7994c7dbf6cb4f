import type { Size } from '../frame/geometry';
import { newStep } from './edit';
import type { Step, Treatment } from './treatment';

/** What a file is sharpened for: paper spreads ink, the more the softer it is; a screen shows pixels as they are. */
export type Purpose = 'none' | 'screen' | 'matte' | 'glossy';

/** Inches over which paper spreads an edge, as a deviation: our estimates, 0.13 and 0.08 mm. */
const SPREAD = { matte: 0.0051, glossy: 0.0033 };
/** A screen's, in pixels. */
const SCREEN = 0.6;
/** How strong the whole amount is. */
const STRENGTH = { screen: 1.2, matte: 2.6, glossy: 2 };

/** Detail fainter than this is grain and noise, and is left as it is: an edge worth making up for is stronger. */
const SPARED = 0.04;

/** The deviation in pixels of the blur that is made up for. */
export const sharpeningRadius = (purpose: Exclude<Purpose, 'none'>, dpi: number): number =>
  purpose === 'screen' ? SCREEN : Math.max(0.4, SPREAD[purpose] * dpi);

/**
 * A treatment with sharpening for what its picture is looked at on, after all else.
 * @param amount 0..1
 * @param size of the file in pixels
 */
export function sharpenedFor(
  treatment: Treatment,
  { purpose, amount }: { purpose: Purpose; amount: number },
  dpi: number,
  { width, height }: Size,
): Treatment {
  if (purpose === 'none' || amount === 0) return treatment;
  const step = newStep(treatment, 'sharpen');
  // At less than its whole strength the treatment's steps count less: this one is none of them.
  const strength = (amount * STRENGTH[purpose]) / Math.max(treatment.strength, 0.1);
  const settings = {
    ...step.settings,
    amount: Math.min(5, strength),
    threshold: SPARED,
    radius: Math.min(0.01, sharpeningRadius(purpose, dpi) / Math.max(width, height)),
  };
  return { ...treatment, steps: [...treatment.steps, { ...step, stage: 'finish', settings } as Step] };
}
