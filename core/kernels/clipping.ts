/** Pixels lost at the ends of the scale, in 8-bit codes. */

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
