import { mostCode, type Codes } from './grid';
import { decode } from '../colour/srgb';
import { toEncoded } from '../colour/transfer';

/**
 * A picture at half its size: the mean of two by two pixels in linear light, so that fine detail keeps its
 * brightness. An odd last row or column stands for itself.
 * @returns 16-bit codes, interleaved RGB, of half the width and height, rounded up
 */
export function halve(codes: Codes, width: number, height: number): Uint16Array {
  const most = mostCode(codes);
  const linear = Float64Array.from({ length: most + 1 }, (_, i) => decode(i / most) / 4);
  const halfWidth = Math.ceil(width / 2);
  const halfHeight = Math.ceil(height / 2);
  const out = new Uint16Array(halfWidth * halfHeight * 3);
  for (let y = 0, o = 0; y < halfHeight; y++) {
    const above = 2 * y * width;
    const below = Math.min(height - 1, 2 * y + 1) * width;
    for (let x = 0; x < halfWidth; x++) {
      const left = 2 * x;
      const right = Math.min(width - 1, left + 1);
      const a = (above + left) * 3;
      const b = (above + right) * 3;
      const c = (below + left) * 3;
      const d = (below + right) * 3;
      for (let k = 0; k < 3; k++) {
        const light =
          linear[codes[a + k]] + linear[codes[b + k]] + linear[codes[c + k]] + linear[codes[d + k]];
        out[o++] = toEncoded(light) * 65535 + 0.5;
      }
    }
  }
  return out;
}
