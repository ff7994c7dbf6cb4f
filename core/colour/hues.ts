import { rgbToOklab } from './oklab';
import { tabulate } from './tabulate';

/** The encoded colour hsl(hue 100% 50%). `hue` in degrees, any real number. */
export function pureHue(hue: number): [number, number, number] {
  const channel = (shift: number) => {
    const k = (((hue / 30 + shift) % 12) + 12) % 12;
    return 0.5 - 0.5 * Math.max(-1, Math.min(k - 3, 9 - k, 1));
  };
  return [channel(0), channel(8), channel(4)];
}

/** The direction in OKLCh, in radians, of an HSL hue in degrees: that of hsl(hue 100% 50%). */
export function hueDirection(hue: number): number {
  const c = Float64Array.from(pureHue(hue));
  rgbToOklab(c);
  return Math.atan2(c[2], c[1]);
}

/** The eight families that photographers name, by their HSL hue in degrees. */
export const FAMILIES = {
  red: 0,
  orange: 30,
  yellow: 60,
  green: 120,
  cyan: 180,
  blue: 240,
  purple: 270,
  magenta: 300,
} as const;

export type Family = keyof typeof FAMILIES;
export const familyNames = Object.keys(FAMILIES) as Family[];

/** Entries of a table around the circle. */
const AROUND = 2048;

/** How much of the way from one family to the next is spent easing out, and again easing in. */
const EASE = 0.15;

/** From 0 to 1, C1, straight in the middle: gentler at its steepest (1 / (1 − EASE)) than a cosine. */
function ease(u: number): number {
  if (u > 0.5) return 1 - ease(1 - u);
  const steepest = 1 / (1 - EASE);
  return u < EASE ? (steepest * u * u) / (2 * EASE) : steepest * (u - EASE / 2);
}

/**
 * A number for each family, joined smoothly (C1) around the hue circle: at a family's own hue its value
 * alone, between two neighbours an eased blend, so that the weights sum to one.
 * @param values one number a family, in the order of `familyNames`
 * @returns the numbers around the circle, the first again at the end; see `readAround`
 */
export function aroundTheCircle(values: readonly number[]): Float64Array {
  const centres = familyNames.map(name => FAMILIES[name]);
  const count = centres.length;
  return tabulate(AROUND + 1, entry => {
    const at = ((entry / AROUND) * 360) % 360;
    let low = count - 1;
    while (centres[low] > at) low--;
    const high = (low + 1) % count;
    const span = (high ? centres[high] : 360) - centres[low];
    return values[low] + (values[high] - values[low]) * ease((at - centres[low]) / span);
  });
}

/** Circles with one family at 1 and the rest at 0, made when they are first asked for. */
let memberships: Float64Array[] | undefined;

/** How much a hue, in sixths of the circle, belongs to each family, in the order of `familyNames`: sums to one. */
export function membershipsAt(sixths: number): number[] {
  memberships ??= familyNames.map((_, own) => aroundTheCircle(familyNames.map((__, i) => Number(i === own))));
  return memberships.map(circle => readAround(circle, sixths));
}

/** Reads a table of `aroundTheCircle` at an HSL hue in sixths of the circle, 0..6. */
export function readAround(table: Float64Array, sixths: number): number {
  const at = sixths * (AROUND / 6);
  const i = at < AROUND ? at | 0 : AROUND - 1;
  return table[i] + (table[i + 1] - table[i]) * (at - i);
}

/**
 * The HSL hue of an encoded colour in sixths of the circle, 0..6; 0 for a grey.
 * @param most the largest channel
 * @param span the largest less the smallest
 */
export function hueSixths(r: number, g: number, b: number, most: number, span: number): number {
  if (!(span > 0)) return 0;
  if (most === g) return 2 + (b - r) / span;
  if (most === b) return 4 + (r - g) / span;
  const at = (g - b) / span;
  return at < 0 ? at + 6 : at;
}
