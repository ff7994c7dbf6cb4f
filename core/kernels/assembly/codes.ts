import { COLOUR, put } from './colours';

/** Between codes and working values; see `core/kernels/codes.ts`. */

/** Colours to dithered 8-bit codes. */
export function write8(rgb: usize, count: i32, lifts: usize, x: i32, out: usize, stride: i32): void {
  const most = f32x4.splat(255);
  for (let i = 0, p = rgb, o = out; i < count; i++, p += COLOUR, o += stride) {
    const lift = v128.load32_splat(lifts + ((<usize>((x + i) & 255)) << 2));
    const level = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(v128.load(p), most), lift));
    const narrow = i16x8.narrow_i32x4_s(level, level);
    store<u32>(o, (<u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(narrow, narrow), 0)) | 0xff000000);
  }
}

/** Numbers to 16-bit codes, clipped; returns whether each lay inside 0..1. `count` is a multiple of four. */
export function toCodes(values: usize, count: i32, out: usize): bool {
  const most = f32x4.splat(65535);
  const half = f32x4.splat(0.5);
  const least = f32x4.splat(-1);
  const beyond = f32x4.splat(65536);
  let outside = i32x4.splat(0);
  for (let i = 0, p = values, o = out; i < count; i += 4, p += 16, o += 8) {
    const scaled = f32x4.mul(v128.load(p), most);
    outside = v128.or(outside, v128.or(f32x4.lt(scaled, least), f32x4.gt(scaled, beyond)));
    const level = i32x4.trunc_sat_f32x4_s(f32x4.add(scaled, half));
    v128.store64_lane(o, i16x8.narrow_i32x4_u(level, level), 0);
  }
  return !v128.any_true(outside);
}

/** Codes to numbers 0..1. `count` is rounded up to four. */
export function readCodes16(codes: usize, count: i32, out: usize): void {
  const most = f32x4.splat(65535);
  for (let i = 0, p = codes, o = out; i < count; i += 4, p += 8, o += 16) {
    v128.store(o, f32x4.div(f32x4.convert_i32x4_u(v128.load16x4_u(p)), most));
  }
}

export function readCodes8(codes: usize, count: i32, out: usize): void {
  const most = f32x4.splat(255);
  for (let i = 0, p = codes, o = out; i < count; i += 4, p += 4, o += 16) {
    const wide = i16x8.extend_low_i8x16_u(v128.load32_zero(p));
    v128.store(o, f32x4.div(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(wide)), most));
  }
}

/** One number a pixel to three equal ones. */
export function spreadGrey(greys: usize, count: i32, out: usize): void {
  for (let i = 0, g = greys, o = out; i < count; i++, g += 4, o += COLOUR) put(o, v128.load32_splat(g));
}
