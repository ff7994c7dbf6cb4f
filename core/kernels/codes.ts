import { mostCode, type Codes } from './grid';
import { DITHER, DITHER_MASK, ditherRow } from './dither';

/** Between 16-bit codes and working values. */

/** RGB codes to encoded RGB 0..1. */
export function readCodes(codes: Codes, from: number, count: number, out: Float32Array): void {
  const most = mostCode(codes);
  for (let i = 0, p = from * 3; i < count * 3; i++, p++) out[i] = codes[p] / most;
}

/** RGB codes of a grey picture (R = G = B) to one number a pixel, 0..1. */
export function readGreyCodes(codes: Codes, from: number, count: number, out: Float32Array): void {
  const most = mostCode(codes);
  for (let i = 0, p = from * 3; i < count; i++, p += 3) out[i] = codes[p] / most;
}

/** One number a pixel to three equal ones. */
export function spreadGrey(greys: Float32Array, count: number, out: Float32Array): void {
  for (let i = count - 1, o = i * 3; i >= 0; i--, o -= 3) {
    const v = greys[i];
    out[o] = v;
    out[o + 1] = v;
    out[o + 2] = v;
  }
}

/**
 * Writes encoded RGB as 8-bit codes, dithered by position: up to half a code either way before rounding, the
 * same for the three channels, so that greys stay grey. A value that already is a code stays that code.
 * @param out gets `stride` bytes a pixel, from byte `at`; with a stride of 4 the fourth is 255
 * @param x picture column of the first pixel
 * @param y picture row
 */
export function write8(
  values: Float32Array,
  count: number,
  out: Uint8Array | Uint8ClampedArray,
  at: number,
  stride: 3 | 4,
  x: number,
  y: number,
): void {
  const row = ditherRow(y);
  for (let i = 0, v = 0, o = at; i < count; i++, v += 3, o += stride) {
    const lift = DITHER[row + ((x + i) & DITHER_MASK)];
    let r = values[v] * 255 + lift;
    let g = values[v + 1] * 255 + lift;
    let b = values[v + 2] * 255 + lift;
    if (!(r > 0)) r = 0;
    else if (r > 255) r = 255;
    if (!(g > 0)) g = 0;
    else if (g > 255) g = 255;
    if (!(b > 0)) b = 0;
    else if (b > 255) b = 255;
    out[o] = r | 0;
    out[o + 1] = g | 0;
    out[o + 2] = b | 0;
    if (stride === 4) out[o + 3] = 255;
  }
}

/** Writes encoded RGB as 16-bit codes, rounded. `at` counts numbers, three a pixel. */
export function write16(values: Float32Array, count: number, out: Uint16Array, at: number): void {
  for (let i = 0; i < count * 3; i++) {
    let v = values[i] * 65535 + 0.5;
    if (!(v > 0)) v = 0;
    else if (v > 65535) v = 65535;
    out[at + i] = v;
  }
}
