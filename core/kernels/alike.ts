/**
 * Colours through a function that is asked once for all that are nearly alike: for pictures as small as a stamp, where a table
 * would cost more than it saves and nobody sees a thousandth.
 */

/** Steps of each channel, from 0 to 1. */
const STEPS = 1023;
/** Colours remembered at a time. */
const KEPT = 4096;

/** What became of colours: by a number of the colour, and the three numbers that it became. */
export interface Remembered {
  of: unknown;
  colours: Int32Array;
  became: Float32Array;
}

export const remembered = (): Remembered => ({
  of: null,
  colours: new Int32Array(KEPT).fill(-1),
  became: new Float32Array(KEPT * 3),
});

const inside = (v: number) => v >= 0 && v <= 1;

/**
 * Colours in place, each as the nearest of 1024 steps a channel; one beyond 0..1 as it is.
 * @param memory what became of them before: forgotten where that was of another function
 * @param exactly turns three numbers from an index on into what they become
 */
export function throughAlike(
  rgb: Float32Array,
  count: number,
  memory: Remembered,
  of: unknown,
  exactly: (p: number) => void,
): void {
  const { colours, became } = memory;
  if (memory.of !== of) {
    colours.fill(-1);
    memory.of = of;
  }
  for (let p = 0; p < count * 3; p += 3) {
    if (!inside(rgb[p]) || !inside(rgb[p + 1]) || !inside(rgb[p + 2])) {
      exactly(p);
      continue;
    }
    const r = Math.round(rgb[p] * STEPS);
    const g = Math.round(rgb[p + 1] * STEPS);
    const b = Math.round(rgb[p + 2] * STEPS);
    const name = (r << 20) | (g << 10) | b;
    const slot = Math.imul(name, 0x9e3779b1) >>> 20;
    if (colours[slot] !== name) {
      rgb[p] = r / STEPS;
      rgb[p + 1] = g / STEPS;
      rgb[p + 2] = b / STEPS;
      exactly(p);
      colours[slot] = name;
      for (let k = 0; k < 3; k++) became[slot * 3 + k] = rgb[p + k];
    } else for (let k = 0; k < 3; k++) rgb[p + k] = became[slot * 3 + k];
  }
}
