import { decode, encode } from './srgb';
import { tabulate } from './tabulate';

/**
 * The sRGB transfer function by table, for hot loops: within 1e-6 of the exact one from 0 to a few times white,
 * the exact one outside.
 */
const DECODE_STEPS = 4096;
const DECODE_MOST = 4;
const ENCODE_STEPS = 65536;
/** Beyond white the curve is nearly straight, and wider steps serve. */
const BEYOND_STEPS = 1024;
const BEYOND_MOST = 16;

const decodeTable = tabulate(DECODE_STEPS * DECODE_MOST + 2, i => decode(i / DECODE_STEPS));
/** Encoded values of linear light from 0 to 1 in 65536 steps, and one beyond. */
export const encodings = tabulate(ENCODE_STEPS + 2, i => encode(i / ENCODE_STEPS));
const beyondTable = tabulate(BEYOND_STEPS * BEYOND_MOST + 2, i => encode(i / BEYOND_STEPS));

/** Encoded sRGB to linear light. */
export function toLinear(v: number): number {
  if (!(v >= 0 && v <= DECODE_MOST)) return decode(v);
  const at = v * DECODE_STEPS;
  const i = at | 0;
  const low = decodeTable[i];
  return low + (decodeTable[i + 1] - low) * (at - i);
}

/** Linear light to encoded sRGB. */
export function toEncoded(x: number): number {
  if (!(x >= 0 && x <= BEYOND_MOST)) return encode(x);
  if (x > 1) {
    const at = x * BEYOND_STEPS;
    const i = at | 0;
    return beyondTable[i] + (beyondTable[i + 1] - beyondTable[i]) * (at - i);
  }
  const at = x * ENCODE_STEPS;
  const i = at | 0;
  const low = encodings[i];
  return low + (encodings[i + 1] - low) * (at - i);
}
