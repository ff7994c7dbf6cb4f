/** Colours in memory: three single-precision numbers a pixel, worked on as a vector of four. */

/** Bytes of a colour. */
export const COLOUR: usize = 12;

/** Stores the first three lanes, and nothing beyond them: what follows may be read next. */
export function put(at: usize, colour: v128): void {
  v128.store64_lane(at, colour, 0);
  v128.store32_lane(at, colour, 2, 8);
}

/** The whole number beneath a number from 0 to 2^23: its bits are those after the point of 2^23 and more. */
export function wholeOf(v: f32): i32 {
  return reinterpret<i32>(floor<f32>(v) + <f32>8388608) & 0x7fffff;
}

/** Luma by the BT.709 weights on encoded values. */
export function lumaOf(colour: v128): f32 {
  const w = f32x4.mul(colour, f32x4(0.2126, 0.7152, 0.0722, 0));
  return f32x4.extract_lane(w, 0) + f32x4.extract_lane(w, 1) + f32x4.extract_lane(w, 2);
}
