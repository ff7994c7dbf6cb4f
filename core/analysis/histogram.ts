import { luma } from '../colour/srgb';

/**
 * How many pixels have each tone (luma).
 * @param codes 8-bit RGB or RGBA
 * @param stride numbers a pixel
 * @returns one count for each of `bins` even steps from black to white
 */
export function toneHistogram(codes: ArrayLike<number>, stride: 3 | 4, bins: number): number[] {
  const counts = new Array<number>(bins).fill(0);
  for (let i = 0; i < codes.length; i += stride) {
    const tone = luma(codes[i], codes[i + 1], codes[i + 2]) / 255;
    counts[Math.min(bins - 1, Math.floor(tone * bins))]++;
  }
  return counts;
}
