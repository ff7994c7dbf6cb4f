import { FAMILIES, type Family } from '../colour/hues';
import type { MaskPart } from '../masks/parts';
import type { ToneRange } from '../settings/fields';

/** The parts of a picture that settings by hue or tone touch. */

/** Chroma that a pixel has at least to be of a family, about half. */
const LEAST_COLOUR = 0.06;

/** The tones of the three ranges as ramps: where `core/colour/tones` gives each a share. */
const TONES = {
  darks: [0, 0, 0.08, 0.42],
  shadows: [0, 0, 0.08, 0.42],
  middles: [0.08, 0.42, 0.58, 0.92],
  midtones: [0.08, 0.42, 0.58, 0.92],
  lights: [0.58, 0.92, 1, 1],
  highlights: [0.58, 0.92, 1, 1],
} satisfies Record<string, ToneRange>;

/** The tones of a range by its name; null where it is none. */
export const toneZone = (range: string | undefined): MaskPart | null =>
  range !== undefined && Object.hasOwn(TONES, range)
    ? { kind: 'tones', op: 'add', range: TONES[range as keyof typeof TONES] }
    : null;

const isFamily = (name: string | undefined): name is Family =>
  name !== undefined && Object.hasOwn(FAMILIES, name);

/** A family's hues: all of it at its own, none at its neighbours'; null where it is no family. */
export function familyZone(family: string | undefined): MaskPart | null {
  if (!isFamily(family)) return null;
  const own = FAMILIES[family];
  const others = Object.values(FAMILIES).filter(hue => hue !== own);
  const up = Math.min(...others.map(hue => (hue - own + 360) % 360));
  const down = Math.min(...others.map(hue => (own - hue + 360) % 360));
  return {
    kind: 'hues',
    op: 'add',
    centre: own,
    width: 0,
    softness: (up + down) / 120,
    colour: LEAST_COLOUR,
  };
}

/** A sixth of the circle about a family's hue, as inks have them; null where it is no family. */
export const sixthZone = (family: string | undefined): MaskPart | null =>
  isFamily(family)
    ? { kind: 'hues', op: 'add', centre: FAMILIES[family], width: 0, softness: 1, colour: LEAST_COLOUR }
    : null;
