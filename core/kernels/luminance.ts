import { LUMINANCE } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';

const [R, G, B] = LUMINANCE;

/** RGB of 8-bit codes to the grey of equal luminance, one code a pixel. Greys stay what they are. */
export function luminanceOf8(codes: Uint8Array): Uint8Array {
  const linear = Float64Array.from({ length: 256 }, (_, i) => toLinear(i / 255));
  const out = new Uint8Array(codes.length / 3);
  for (let i = 0, p = 0; i < out.length; i++, p += 3) {
    const y = R * linear[codes[p]] + G * linear[codes[p + 1]] + B * linear[codes[p + 2]];
    out[i] = toEncoded(y) * 255 + 0.5;
  }
  return out;
}

/** The same for 16-bit codes. */
export function luminanceOf16(codes: Uint16Array): Uint16Array {
  const out = new Uint16Array(codes.length / 3);
  for (let i = 0, p = 0; i < out.length; i++, p += 3) {
    const y =
      R * toLinear(codes[p] / 65535) +
      G * toLinear(codes[p + 1] / 65535) +
      B * toLinear(codes[p + 2] / 65535);
    out[i] = toEncoded(y) * 65535 + 0.5;
  }
  return out;
}

/** Codes of 8 or 16 bits to one channel: the luminance of each pixel. */
export const greyOf = (codes: Uint8Array | Uint16Array): Uint8Array | Uint16Array =>
  codes instanceof Uint16Array ? luminanceOf16(codes) : luminanceOf8(codes);
