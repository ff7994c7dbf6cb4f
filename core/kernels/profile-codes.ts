import { encode } from '../colour/srgb';

/**
 * Codes of a profile whose channels add up in light, to sRGB: each channel's share of linear red, green and blue is read
 * from a table, added up, and encoded.
 */

/** Steps of the table that encodes, even over the square root of light, so that the darks are fine. */
const STEPS = 65536;
let encoding: Float32Array | undefined;

function encodingTable(): Float32Array {
  encoding ??= Float32Array.from({ length: STEPS + 2 }, (_, i) => encode((i / STEPS) ** 2) * 65535);
  return encoding;
}

/**
 * @param codes 16-bit codes, interleaved RGB of the profile
 * @param shares by channel, 65536 entries of linear sRGB red, green, blue each
 * @param out 16-bit sRGB codes, clipped to what sRGB holds; may be `codes`
 */
export function profileToSrgb(
  codes: Uint16Array,
  [red, green, blue]: readonly [Float32Array, Float32Array, Float32Array],
  out: Uint16Array,
): void {
  const table = encodingTable();
  for (let p = 0; p < codes.length; p += 3) {
    const r = codes[p] * 3;
    const g = codes[p + 1] * 3;
    const b = codes[p + 2] * 3;
    for (let k = 0; k < 3; k++) {
      const light = red[r + k] + green[g + k] + blue[b + k];
      const at = light <= 0 ? 0 : light >= 1 ? STEPS : Math.sqrt(light) * STEPS;
      const i = at | 0;
      out[p + k] = table[i] + (table[i + 1] - table[i]) * (at - i) + 0.5;
    }
  }
}

/** Colours and alpha of codes that stand together, `channels` numbers a pixel, the last of them the alpha. */
export function splitAlpha(
  codes: Uint16Array,
  channels: number,
): { colours: Uint16Array; alpha: Uint16Array } {
  const each = channels - 1;
  const count = codes.length / channels;
  const colours = new Uint16Array(count * each);
  const alpha = new Uint16Array(count);
  for (let i = 0, p = 0, o = 0; i < count; i++) {
    for (let k = 0; k < each; k++) colours[o++] = codes[p++];
    alpha[i] = codes[p++];
  }
  return { colours, alpha };
}

/** Lays colours on white by their alpha, in place. */
export function layOnWhite(colours: Uint16Array, alpha: Uint16Array): void {
  const each = colours.length / alpha.length;
  for (let i = 0, o = 0; i < alpha.length; i++) {
    const share = alpha[i] / 65535;
    for (let k = 0; k < each; k++, o++) colours[o] = 65535 + (colours[o] - 65535) * share + 0.5;
  }
}

/** Looks each code up, in place. */
export function lookUp(codes: Uint16Array, table: Uint16Array): void {
  for (let i = 0; i < codes.length; i++) codes[i] = table[codes[i]];
}

/** 8-bit codes of 16-bit ones. */
export function narrow(codes: Uint16Array): Uint8Array {
  const out = new Uint8Array(codes.length);
  for (let i = 0; i < codes.length; i++) out[i] = codes[i] / 257 + 0.5;
  return out;
}

/** One number a pixel to three that are equal. */
export function greyToRgb(grey: Uint8Array | Uint16Array): Uint8Array | Uint16Array {
  const count = grey.length;
  const out = grey instanceof Uint16Array ? new Uint16Array(count * 3) : new Uint8Array(count * 3);
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    const v = grey[i];
    out[o] = v;
    out[o + 1] = v;
    out[o + 2] = v;
  }
  return out;
}

/**
 * 16-bit codes of floating numbers, of which 0 is black and 1 white; what lies beyond, or is no number, is cut.
 * @param isLinear they are linear light, and become codes of sRGB; alpha, the last of 2 or 4 channels, stays as it is
 */
export function codesOfFloats(
  numbers: Float32Array | Uint32Array,
  channels: number,
  isLinear: boolean,
): Uint16Array {
  const out = new Uint16Array(numbers.length);
  const alpha = channels % 2 ? -1 : channels - 1;
  for (let i = 0; i < out.length; i++) {
    const v = numbers[i];
    const cut = v > 0 ? (v < 1 ? v : 1) : 0;
    out[i] = Math.round((isLinear && i % channels !== alpha ? encode(cut) : cut) * 65535);
  }
  return out;
}
