/** Noise repeats after this many pixels; far wider than what an eye picks up at half a code. */
const SIDE = 256;
const MASK = SIDE - 1;

/**
 * What is added to a level before it is cut to an 8-bit code: even noise inside 0..1, a function of the
 * position alone (an integer hash), so that tiles and whole pictures are dithered alike.
 */
export const DITHER = new Float32Array(SIDE * SIDE);
/** Levels that are whole numbers have this many bits after the point. */
export const DITHER_BITS = 20;
/** The same for such levels. */
export const WHOLE_DITHER = new Int32Array(SIDE * SIDE);
for (let y = 0; y < SIDE; y++) {
  for (let x = 0; x < SIDE; x++) {
    let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y + 0x7f4a, 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
    h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
    h ^= h >>> 15;
    const i = y * SIDE + x;
    DITHER[i] = ((h >>> 0) / 2 ** 32) * 0.99 + 0.005;
    WHOLE_DITHER[i] = DITHER[i] * 2 ** DITHER_BITS;
  }
}

/** Where the noise of a picture row begins. */
export const ditherRow = (y: number): number => (y & MASK) * SIDE;
