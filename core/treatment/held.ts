import { FAMILIES, type Family } from '../colour/hues';
import { newStep } from './edit';
import type { Mask } from '../masks/mask';
import type { Step, Treatment } from './schema';

/** What the picture shows while a control is held: the zone that it touches, or its colour at full strength. */

/** How far what is not touched steps back: stops of light, and its colour. */
const BACK = { exposure: -2, saturation: -0.7 };

const HELD = 'held';

type Part = Mask['parts'][number];

/** The tones of the three ranges as ramps: where `core/colour/tones` gives each a share. */
const TONES: Record<string, [number, number, number, number]> = {
  darks: [0, 0, 0.08, 0.42],
  shadows: [0, 0, 0.08, 0.42],
  middles: [0.08, 0.42, 0.58, 0.92],
  midtones: [0.08, 0.42, 0.58, 0.92],
  lights: [0.58, 0.92, 1, 1],
  highlights: [0.58, 0.92, 1, 1],
};

const around = Object.values(FAMILIES);

/** A family's hues: all of it at its own, none at its neighbours'. */
function familyPart(family: Family): Part {
  const own = FAMILIES[family];
  const others = around.filter(hue => hue !== own);
  const up = Math.min(...others.map(hue => (hue - own + 360) % 360));
  const down = Math.min(...others.map(hue => (own - hue + 360) % 360));
  return { kind: 'hues', op: 'add', centre: own, width: 0, softness: (up + down) / 120 };
}

/** A sixth of the circle, as inks have them. */
const inkPart = (hue: string): Part => ({
  kind: 'hues',
  op: 'add',
  centre: FAMILIES[hue as Family],
  width: 0,
  softness: 1,
});

/** The parts of the picture that a setting touches; null where it touches all. */
function zoneOf(step: Step, [first, second]: readonly string[]): Part | null {
  if (step.kind === 'mono' && first === 'response' && second in FAMILIES) return familyPart(second as Family);
  if (step.kind === 'colour-bands' && first in FAMILIES) return familyPart(first as Family);
  if (step.kind === 'inks' && first === 'hues') return inkPart(second);
  const tones = step.kind === 'inks' && first === 'tones' ? second : first;
  if ((step.kind === 'inks' || step.kind === 'three-way-balance') && tones in TONES) {
    return { kind: 'tones', op: 'add', range: TONES[tones] };
  }
  return null;
}

/**
 * The treatment to look at while controls of a step are held.
 * - A family, an ink or a range of the balance: what they touch stays, the rest of the picture steps back.
 * - A hue of a split tone: that range at full saturation.
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
  const [[range, setting]] = paths;
  if (step.kind === 'split-tone' && setting === 'hue') {
    const settings = step.settings as unknown as Record<string, object>;
    const strong = { ...settings, [range]: { ...settings[range], saturation: 1 } };
    const shown = { ...step, strength: 1, settings: strong as unknown as Step['settings'] } as Step;
    return { ...treatment, steps: treatment.steps.with(at, shown) };
  }
  const parts = paths.map(path => zoneOf(step, path)).filter(part => part !== null);
  if (parts.length === 0) return treatment;
  const mask: Mask = { id: HELD, name: '', invert: true, feather: 0, grow: 0, refine: 0, parts };
  const back = newStep(treatment, 'local-light', step.stage);
  const dimmed = { ...back, id: HELD, mask: HELD, settings: { ...back.settings, ...BACK } } as Step;
  return {
    ...treatment,
    strength: 1,
    masks: [...treatment.masks, mask],
    steps: treatment.steps.toSpliced(at, 0, dimmed),
  };
}
