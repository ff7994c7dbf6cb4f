import { COLOUR, put, wholeOf } from './colours';

/** Colours read from a 1D table over greys; see `core/kernels/ramp.ts`. */

/** The colour of a grey, between two entries. `last`: the last entry that has one after it. */
function colourAt(values: usize, last: i32, at: f32): v128 {
  const within = min(max(at, <f32>0), <f32>(last + 1));
  const entry = min(wholeOf(within), last);
  const share = f32x4.splat(within - <f32>entry);
  const low = values + <usize>entry * COLOUR;
  const a = v128.load(low);
  return f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(low + COLOUR), a), share));
}

/** Greys, one a pixel, to colours. */
export function readRamp(
  values: usize,
  last: i32,
  from: f32,
  density: f32,
  greys: usize,
  count: i32,
  out: usize,
): void {
  for (let i = 0, g = greys, o = out; i < count; i++, g += 4, o += COLOUR) {
    put(o, colourAt(values, last, (load<f32>(g) - from) * density));
  }
}

/** Grey colours to colours, in place; the greys are kept. Returns whether all lay from `from` to `to`. */
export function throughRamp(
  values: usize,
  last: i32,
  from: f32,
  to: f32,
  density: f32,
  rgb: usize,
  count: i32,
  greys: usize,
): bool {
  let least: f32 = Infinity;
  let most: f32 = -Infinity;
  for (let i = 0, g = greys, p = rgb; i < count; i++, g += 4, p += COLOUR) {
    const grey = load<f32>(p);
    store<f32>(g, grey);
    least = min(least, grey);
    most = max(most, grey);
    put(p, colourAt(values, last, (grey - from) * density));
  }
  return least >= from && most <= to;
}

/** Greys to dithered 8-bit codes by the nearest entry; `levels` are whole numbers with 20 bits after the point. */
export function writeRamp8(
  levels: usize,
  last: i32,
  density: f32,
  half: f32,
  greys: usize,
  count: i32,
  lifts: usize,
  x: i32,
  out: usize,
  stride: i32,
): void {
  for (let i = 0, g = greys, o = out; i < count; i++, g += 4, o += stride) {
    const at = min(max(load<f32>(g) * density + half, <f32>0), <f32>last);
    const level = v128.load(levels + <usize>wholeOf(at) * COLOUR);
    const lifted = i32x4.add(level, v128.load32_splat(lifts + ((<usize>((x + i) & 255)) << 2)));
    const code = i32x4.shr_s(lifted, 20);
    const narrow = i16x8.narrow_i32x4_s(code, code);
    store<u32>(o, (<u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(narrow, narrow), 0)) | 0xff000000);
  }
}
