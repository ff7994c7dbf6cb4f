/** A border about a picture, and what is printed on it; codes of 8 or 16 bits, interleaved. */

export interface Edges {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

type Samples = Uint8Array | Uint16Array;

/**
 * A picture with a border of one colour about it.
 * @param colour a code for each channel
 */
export function withBorder<A extends Samples>(
  codes: A,
  { width, height }: { width: number; height: number },
  { left, top, right, bottom }: Edges,
  colour: readonly number[],
): { codes: A; width: number; height: number } {
  const channels = colour.length;
  const size = { width: left + width + right, height: top + height + bottom };
  const stride = size.width * channels;
  const make = codes instanceof Uint8Array ? Uint8Array : Uint16Array;
  const out = new make(stride * size.height) as A;
  const row = out.subarray(0, stride);
  for (let i = 0; i < stride; i++) row[i] = colour[i % channels];
  for (let y = 1; y < size.height; y++) out.copyWithin(y * stride, 0, stride);
  for (let y = 0; y < height; y++) {
    const from = codes.subarray(y * width * channels, (y + 1) * width * channels);
    out.set(from, (top + y) * stride + left * channels);
  }
  return { codes: out, ...size };
}

/**
 * Prints ink on a picture, in place.
 * @param cover how much ink, one 8-bit code a pixel, of a strip of the picture's width that begins at a row
 * @param colour a code for each channel
 */
export function printOn(
  codes: Samples,
  width: number,
  fromRow: number,
  cover: Uint8Array,
  colour: readonly number[],
): void {
  const channels = colour.length;
  const start = fromRow * width * channels;
  for (let i = 0; i < cover.length; i++) {
    const ink = cover[i];
    if (ink === 0) continue;
    for (let k = 0; k < channels; k++) {
      const at = start + i * channels + k;
      codes[at] = Math.round(codes[at] + (ink / 255) * (colour[k] - codes[at]));
    }
  }
}
