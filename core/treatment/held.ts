import { stepKind } from '../steps';
import { newStep } from './edit';
import { emptyMask, type Mask } from '../masks/mask';
import type { Step, Treatment } from './treatment';

/** What the picture shows while a control is held: the zone that it touches, or its colour at full strength. */

/** How far what is not touched steps back: stops of light, and its colour. */
const BACK = { exposure: -2, saturation: -0.7 };

const HELD = 'held';

/**
 * The treatment to look at while controls of a step are held.
 * - What a setting touches, as its kind says it: that stays, the rest of the picture steps back.
 * - Or the step as its kind wants it to be looked at then.
 * - Anything else: the treatment as it is.
 * @param paths the settings held, each as its path; several families may be held at once by a pull
 */
export function whileHeld(
  treatment: Treatment,
  stepId: string,
  paths: readonly (readonly string[])[],
): Treatment {
  const at = treatment.steps.findIndex(s => s.id === stepId);
  const step = treatment.steps[at];
  if (!step || paths.length === 0) return treatment;
  const held = paths.map(path => stepKind(step.kind)?.whileHeld?.(step.settings, path) ?? null);
  const [first] = held;
  if (first && 'settings' in first) {
    const shown = { ...step, strength: 1, settings: first.settings } as Step;
    return { ...treatment, steps: treatment.steps.with(at, shown) };
  }
  const parts = held.flatMap(each => (each && 'zone' in each ? [each.zone] : []));
  if (parts.length === 0) return treatment;
  const mask: Mask = { ...emptyMask(HELD, ''), invert: true, parts };
  const back = newStep(treatment, 'local-light', step.stage);
  const dimmed = { ...back, id: HELD, mask: HELD, settings: { ...back.settings, ...BACK } } as Step;
  return {
    ...treatment,
    strength: 1,
    masks: [...treatment.masks, mask],
    steps: treatment.steps.toSpliced(at, 0, dimmed),
  };
}
