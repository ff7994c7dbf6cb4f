/** Pixels marked on a picture of 8-bit codes: lost at the ends of the scale, or still coloured. */

/** Codes up to which a pixel is black, all channels; and from which it is lost to white, in any channel. */
const BLACK = 1;
const WHITE = 254;

/** The colours that lost pixels are painted in: a blue and an orange that no print has. */
const MARKS = [
  [40, 90, 255],
  [255, 110, 20],
] as const;

/**
 * Counts the pixels lost at both ends.
 * @param codes RGBA; pixels of no opacity are left out
 * @returns shares of the pixels, 0..1
 */
export function lostShares(codes: ArrayLike<number>): { black: number; white: number } {
  let black = 0;
  let white = 0;
  let count = 0;
  for (let p = 0; p < codes.length; p += 4) {
    if (codes[p + 3] === 0) continue;
    count++;
    if (codes[p] <= BLACK && codes[p + 1] <= BLACK && codes[p + 2] <= BLACK) black++;
    else if (codes[p] >= WHITE || codes[p + 1] >= WHITE || codes[p + 2] >= WHITE) white++;
  }
  return count === 0 ? { black, white } : { black: black / count, white: white / count };
}

/** Paints the pixels lost at both ends, in place. RGBA. */
export function markLost(codes: Uint8ClampedArray): void {
  for (let p = 0; p < codes.length; p += 4) {
    if (codes[p + 3] === 0) continue;
    const black = codes[p] <= BLACK && codes[p + 1] <= BLACK && codes[p + 2] <= BLACK;
    if (!black && codes[p] < WHITE && codes[p + 1] < WHITE && codes[p + 2] < WHITE) continue;
    const mark = MARKS[black ? 0 : 1];
    codes[p] = mark[0];
    codes[p + 1] = mark[1];
    codes[p + 2] = mark[2];
  }
}

/** Codes between the largest and the smallest channel up to which a pixel counts as grey, dither included. */
const GREY = 7;
/** What is left of the light of a grey pixel. */
const BACK = 0.3;

/** Lets pixels without colour step back, in place, so that what is coloured stands out. RGBA. */
export function markColoured(codes: Uint8ClampedArray): void {
  for (let p = 0; p < codes.length; p += 4) {
    const most = Math.max(codes[p], codes[p + 1], codes[p + 2]);
    if (most - Math.min(codes[p], codes[p + 1], codes[p + 2]) > GREY) continue;
    codes[p] *= BACK;
    codes[p + 1] *= BACK;
    codes[p + 2] *= BACK;
  }
}
