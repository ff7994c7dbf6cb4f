import { mostCode, type Codes } from './grid';
import { compiled, copyCodes, inChunks } from './compiled';
import { DITHER, ditherRow } from './dither';

/** Between 16-bit codes and working values. */

/** RGB codes to encoded RGB 0..1. */
export function readCodes(codes: Codes, from: number, count: number, out: Float32Array): void {
  const { kernels, colours } = compiled();
  inChunks(count, (first, n) => {
    const at = copyCodes(codes, from + first, n);
    if (codes instanceof Uint8Array) kernels.readCodes8(at, n * 3, colours.at);
    else kernels.readCodes16(at, n * 3, colours.at);
    out.set(colours.view.subarray(0, n * 3), first * 3);
  });
}

/** RGB codes of a grey picture (R = G = B) to one number a pixel, 0..1. */
export function readGreyCodes(codes: Codes, from: number, count: number, out: Float32Array): void {
  const most = mostCode(codes);
  for (let i = 0, p = from * 3; i < count; i++, p += 3) out[i] = codes[p] / most;
}

/** One number a pixel to three equal ones. */
export function spreadGrey(greys: Float32Array, count: number, out: Float32Array): void {
  const { kernels, greys: room, colours } = compiled();
  inChunks(count, (from, n) => {
    room.view.set(greys.subarray(from, from + n));
    kernels.spreadGrey(room.at, n, colours.at);
    out.set(colours.view.subarray(0, n * 3), from * 3);
  });
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
  const { kernels, colours, bytes, addressesOf } = compiled();
  const [lifts] = addressesOf(DITHER);
  const row = lifts + ditherRow(y) * 4;
  inChunks(count, (from, n) => {
    colours.view.set(values.subarray(from * 3, (from + n) * 3));
    kernels.write8(colours.at, n, row, x + from, bytes.at, stride);
    out.set(bytes.view.subarray(0, n * stride), at + from * stride);
  });
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

/** Encoded RGB as 16-bit codes, clipped; returns whether every number lay inside 0..1. */
export function toCodes(rgb: Float32Array, count: number, out: Uint16Array): boolean {
  const { kernels, colours, codes16 } = compiled();
  let inside = true;
  inChunks(count, (from, n) => {
    colours.view.set(rgb.subarray(from * 3, (from + n) * 3));
    // Vectors of four: what is left of the last one is none of ours.
    colours.view.fill(0, n * 3, n * 3 + 3);
    const all = kernels.toCodes(colours.at, (n * 3 + 3) & ~3, codes16.at);
    inside = Boolean(all) && inside;
    out.set(codes16.view.subarray(0, n * 3), from * 3);
  });
  return inside;
}
