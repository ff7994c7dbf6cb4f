import { luma } from '../colour/srgb';

/**
 * How many pixels have each tone: luma, or one channel of three.
 * @param codes 8-bit RGB or RGBA
 * @param stride numbers a pixel
 * @returns one count for each of `bins` even steps from black to white
 */
export function toneHistogram(
  codes: ArrayLike<number>,
  stride: 3 | 4,
  bins: number,
  channel?: 0 | 1 | 2,
): number[] {
  const counts = new Array<number>(bins).fill(0);
  for (let i = 0; i < codes.length; i += stride) {
    const tone =
      (channel === undefined ? luma(codes[i], codes[i + 1], codes[i + 2]) : codes[i + channel]) / 255;
    counts[Math.min(bins - 1, Math.floor(tone * bins))]++;
  }
  return counts;
}
