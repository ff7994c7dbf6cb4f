import { rgbToOklab } from '../colour/oklab';
import { luma } from '../colour/srgb';

/** What an area holds: the tones that colour is laid on, and the colour that the photograph itself has there. */
export interface AreaTones {
  /** Luma, encoded 0..1, at a quarter, a half and three quarters of the area. */
  tones: [dark: number, middle: number, light: number];
  /** The mean colour of the bare photograph there, OKLab a and b; null where the photograph has none. */
  colour: [a: number, b: number] | null;
}

/** Bins of tones. */
const BINS = 256;
/** An area that covers less than this of a picture, in pixels, says nothing. */
const LEAST = 4;

/**
 * @param cover the area in grey, RGBA codes of 8 bits
 * @param beneath what lies beneath the colour, the same
 * @param bare the photograph before any step, the same
 * @param grey the photograph has no colour
 * @returns null where the area covers nothing
 */
export function areaTones(
  cover: Uint8ClampedArray,
  beneath: Uint8ClampedArray,
  bare: Uint8ClampedArray,
  grey: boolean,
): AreaTones | null {
  const counts = new Float64Array(BINS);
  const lab = new Float64Array(3);
  let [sum, a, b] = [0, 0, 0];
  for (let p = 0; p < cover.length; p += 4) {
    const weight = cover[p] / 255;
    if (weight === 0) continue;
    counts[Math.round(luma(beneath[p], beneath[p + 1], beneath[p + 2]))] += weight;
    sum += weight;
    if (grey) continue;
    for (let k = 0; k < 3; k++) lab[k] = bare[p + k] / 255;
    rgbToOklab(lab);
    a += weight * lab[1];
    b += weight * lab[2];
  }
  if (sum < LEAST) return null;
  const at = (share: number) => {
    let so = 0;
    for (let k = 0; k < BINS; k++) if ((so += counts[k]) >= share * sum) return k / (BINS - 1);
    return 1;
  };
  return { tones: [at(0.25), at(0.5), at(0.75)], colour: grey ? null : [a / sum, b / sum] };
}
