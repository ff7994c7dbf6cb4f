import { compiled, inChunks } from './compiled';

/**
 * Lays one colour on encoded colours in the mix `color`, in place: `beneath + weight · strength · (mixed − beneath)`.
 * Source: W3C Compositing and Blending Level 1, section 9.2 (SetLum, ClipColor).
 * @param weights one for each colour; null where all are whole
 * @param own encoded, 0..1
 */
export function mixColour(
  rgb: Float32Array,
  weights: Float32Array | null,
  own: readonly [number, number, number],
  strength: number,
): void {
  const { kernels, colours, greys } = compiled();
  inChunks(rgb.length / 3, (from, n) => {
    const part = rgb.subarray(from * 3, (from + n) * 3);
    colours.view.set(part);
    if (weights) greys.view.set(weights.subarray(from, from + n));
    else greys.view.fill(1, 0, n);
    kernels.mixColour(colours.at, greys.at, n, ...own, strength);
    part.set(colours.view.subarray(0, n * 3));
  });
}
