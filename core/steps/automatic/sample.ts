import { mostCode, type Codes } from '../../kernels/grid';

/**
 * Pixels spread evenly over a picture, the same ones every time.
 * @returns encoded RGB 0..1, interleaved; at most `most` pixels
 */
export function sampleOf(codes: Codes, most: number): Float64Array {
  const pixels = codes.length / 3;
  const count = Math.min(pixels, most);
  const out = new Float64Array(count * 3);
  const top = mostCode(codes);
  for (let i = 0; i < count; i++) {
    // The golden ratio spreads the samples without a grid's own pattern.
    const at = count === pixels ? i : Math.floor(((i * 0.6180339887498949) % 1) * pixels);
    for (let k = 0; k < 3; k++) out[i * 3 + k] = codes[at * 3 + k] / top;
  }
  return out;
}
