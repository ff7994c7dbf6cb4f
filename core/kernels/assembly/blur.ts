import { COLOUR, lumaOf } from './colours';

/** A Gaussian by direct sums along lines, and detail added; see `core/kernels/unsharp.ts`. */

/** Luma of each colour. */
export function lumas(rgb: usize, count: i32, out: usize): void {
  for (let i = 0, p = rgb, o = out; i < count; i++, p += COLOUR, o += 4) store<f32>(o, lumaOf(v128.load(p)));
}

/**
 * Along a line, which has `radius` numbers before the first and after the last. `count` is rounded up to eight.
 * @param taps from the middle outwards: 1 + radius
 */
export function blurLine(line: usize, count: i32, taps: usize, radius: i32, out: usize): void {
  for (let i = 0; i < count; i += 8) {
    const at = line + ((<usize>i) << 2);
    const middle = v128.load32_splat(taps);
    let low = f32x4.mul(middle, v128.load(at));
    let high = f32x4.mul(middle, v128.load(at, 16));
    for (let k = 1; k <= radius; k++) {
      const reach = (<usize>k) << 2;
      const tap = v128.load32_splat(taps + reach);
      low = f32x4.add(low, f32x4.mul(tap, f32x4.add(v128.load(at - reach), v128.load(at + reach))));
      high = f32x4.add(high, f32x4.mul(tap, f32x4.add(v128.load(at - reach, 16), v128.load(at + reach, 16))));
    }
    const to = out + ((<usize>i) << 2);
    v128.store(to, low);
    v128.store(to, high, 16);
  }
}

/**
 * Across lines, whose addresses stand in `rows`: 2 radius + 1 of them. `count` is rounded up to sixteen.
 */
export function blurRows(rows: usize, radius: i32, count: i32, taps: usize, out: usize): void {
  const middle = rows + ((<usize>radius) << 2);
  for (let i = 0; i < count; i += 16) {
    const at = (<usize>i) << 2;
    const own = <usize>load<u32>(middle) + at;
    let tap = v128.load32_splat(taps);
    let a = f32x4.mul(tap, v128.load(own));
    let b = f32x4.mul(tap, v128.load(own, 16));
    let c = f32x4.mul(tap, v128.load(own, 32));
    let d = f32x4.mul(tap, v128.load(own, 48));
    for (let k = 1; k <= radius; k++) {
      const reach = (<usize>k) << 2;
      const above = <usize>load<u32>(middle - reach) + at;
      const below = <usize>load<u32>(middle + reach) + at;
      tap = v128.load32_splat(taps + reach);
      a = f32x4.add(a, f32x4.mul(tap, f32x4.add(v128.load(above), v128.load(below))));
      b = f32x4.add(b, f32x4.mul(tap, f32x4.add(v128.load(above, 16), v128.load(below, 16))));
      c = f32x4.add(c, f32x4.mul(tap, f32x4.add(v128.load(above, 32), v128.load(below, 32))));
      d = f32x4.add(d, f32x4.mul(tap, f32x4.add(v128.load(above, 48), v128.load(below, 48))));
    }
    const to = out + at;
    v128.store(to, a);
    v128.store(to, b, 16);
    v128.store(to, c, 32);
    v128.store(to, d, 48);
  }
}

/**
 * To each channel the luma less its blur, times an amount, detail below the threshold eased out; in place. `count` is
 * rounded up to four.
 */
export function addDetail(
  rgb: usize,
  lumas: usize,
  blurred: usize,
  count: i32,
  amount: f32,
  threshold: f32,
): void {
  const all = f32x4.splat(amount);
  const one = f32x4.splat(1);
  const eases = threshold > 0;
  const share = f32x4.splat(eases ? <f32>1 / threshold : 0);
  for (let i = 0, p = rgb, l = lumas, b = blurred; i < count; i += 4, p += 48, l += 16, b += 16) {
    const detail = f32x4.sub(v128.load(l), v128.load(b));
    let weight = all;
    if (eases) {
      const t = f32x4.min(f32x4.mul(f32x4.abs(detail), share), one);
      const eased = f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
      weight = f32x4.mul(all, eased);
    }
    const change = f32x4.mul(weight, detail);
    v128.store(p, f32x4.add(v128.load(p), v128.shuffle<f32>(change, change, 0, 0, 0, 1)));
    v128.store(p, f32x4.add(v128.load(p, 16), v128.shuffle<f32>(change, change, 1, 1, 2, 2)), 16);
    v128.store(p, f32x4.add(v128.load(p, 32), v128.shuffle<f32>(change, change, 2, 3, 3, 3)), 32);
  }
}
