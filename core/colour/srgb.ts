/**
 * The sRGB transfer function, exact, for any real number (odd-symmetric below zero).
 * Source: IEC 61966-2-1:1999.
 */

/** Encoded sRGB (0..1) to linear light (0..1). */
export function decode(v: number): number {
  const a = Math.abs(v);
  return a <= 0.04045 ? v / 12.92 : Math.sign(v) * ((a + 0.055) / 1.055) ** 2.4;
}

/** Linear light (0..1) to encoded sRGB (0..1). */
export function encode(x: number): number {
  const a = Math.abs(x);
  return a <= 0.0031308 ? x * 12.92 : Math.sign(x) * (1.055 * a ** (1 / 2.4) - 0.055);
}

/** Weights of luminance for linear sRGB, and of luma for encoded sRGB. Source: ITU-R BT.709. */
export const LUMINANCE = [0.2126, 0.7152, 0.0722] as const;

/** Luma of an encoded colour, as the treatment format defines it. */
export function luma(r: number, g: number, b: number): number {
  return LUMINANCE[0] * r + LUMINANCE[1] * g + LUMINANCE[2] * b;
}

/** `#rrggbb` to three encoded values 0..1. Throws a RangeError on anything else. */
export function parseHex(hex: string): [number, number, number] {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) throw new RangeError(`not a colour: ${hex}`);
  const n = parseInt(hex.slice(1), 16);
  return [(n >> 16) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255];
}

/** Three encoded values, clipped to 0..1, to `#rrggbb`. */
export function toHex(r: number, g: number, b: number): string {
  const byte = (v: number) =>
    Math.round(Math.min(1, Math.max(0, v)) * 255)
      .toString(16)
      .padStart(2, '0');
  return `#${byte(r)}${byte(g)}${byte(b)}`;
}
