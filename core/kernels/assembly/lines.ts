import { COLOUR, lumaOf } from './colours';

/**
 * Straight lines found in a small picture, read at the pixels of a large one; see `core/kernels/lines.ts`. A row of them
 * is blended from two first; then each pixel reads between two neighbours: where the first lies (in bytes), and its
 * share of the way to the second.
 */

/** A row between two rows of numbers. `count` is rounded up to four. */
export function blend(above: usize, below: usize, count: i32, share: f32, out: usize): void {
  const f = f32x4.splat(share);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 2;
    const a = v128.load(above + at);
    v128.store(out + at, f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(below + at), a), f)));
  }
}

const R: f32 = 0.2126;
const G: f32 = 0.7152;
const B: f32 = 0.0722;

/** Four numbers of a line at a pixel: from the first of two small pixels, `size` bytes each, on to the second. */
function lineAt(from: usize, size: usize, share: v128): v128 {
  const a = v128.load(from);
  return f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(from + size), a), share));
}

/** Of four pixels' lines a, b, c, d: what they give for red, green and blue. */
function dots(a: v128, b: v128, c: v128, d: v128, red: v128, green: v128, blue: v128): v128 {
  const abLow = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cdLow = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const abHigh = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cdHigh = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  const overRed = f32x4.mul(v128.shuffle<f64>(abLow, cdLow, 0, 2), red);
  const overGreen = f32x4.mul(v128.shuffle<f64>(abLow, cdLow, 1, 3), green);
  const overBlue = f32x4.mul(v128.shuffle<f64>(abHigh, cdHigh, 0, 2), blue);
  return f32x4.add(
    f32x4.add(overRed, overGreen),
    f32x4.add(overBlue, v128.shuffle<f64>(abHigh, cdHigh, 1, 3)),
  );
}

/** Bytes of a small pixel of eight numbers. */
const EIGHT: usize = 32;

/**
 * Colours with their own luma and the chroma that lines give, in place: eight numbers a small pixel, over red, green and
 * blue and by itself, of red less luma and of blue less luma. Greys stay. `count` is rounded up to four; places and shares
 * beyond it are read.
 */
export function calm(line: usize, places: usize, shares: usize, rgb: usize, count: i32): void {
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  for (let i = 0, p = rgb, at = places, s = shares; i < count; i += 4, p += 48, at += 16, s += 16) {
    const first = v128.load(p);
    const second = v128.load(p, 16);
    const third = v128.load(p, 32);
    // r0 g0 b0 r1 | g1 b1 r2 g2 | b2 r3 g3 b3
    const red = v128.shuffle<f32>(v128.shuffle<f32>(first, second, 0, 3, 6, 6), third, 0, 1, 2, 5);
    const green = v128.shuffle<f32>(v128.shuffle<f32>(first, second, 1, 4, 7, 7), third, 0, 1, 2, 6);
    const blue = v128.shuffle<f32>(v128.shuffle<f32>(first, second, 2, 5, 5, 5), third, 0, 1, 4, 7);
    const a = line + <usize>load<u32>(at);
    const b = line + <usize>load<u32>(at, 4);
    const c = line + <usize>load<u32>(at, 8);
    const d = line + <usize>load<u32>(at, 12);
    const toA = v128.load32_splat(s);
    const toB = v128.load32_splat(s, 4);
    const toC = v128.load32_splat(s, 8);
    const toD = v128.load32_splat(s, 12);
    const chromaR = dots(
      lineAt(a, EIGHT, toA),
      lineAt(b, EIGHT, toB),
      lineAt(c, EIGHT, toC),
      lineAt(d, EIGHT, toD),
      red,
      green,
      blue,
    );
    const chromaB = dots(
      lineAt(a + 16, EIGHT, toA),
      lineAt(b + 16, EIGHT, toB),
      lineAt(c + 16, EIGHT, toC),
      lineAt(d + 16, EIGHT, toD),
      red,
      green,
      blue,
    );
    const chromaG = f32x4.div(
      f32x4.add(f32x4.mul(f32x4.splat(R), chromaR), f32x4.mul(f32x4.splat(B), chromaB)),
      f32x4.splat(-G),
    );
    const luma = f32x4.add(
      f32x4.add(f32x4.mul(f32x4.splat(R), red), f32x4.mul(f32x4.splat(G), green)),
      f32x4.mul(f32x4.splat(B), blue),
    );
    const most = f32x4.max(f32x4.max(chromaR, chromaG), chromaB);
    const least = f32x4.min(f32x4.min(chromaR, chromaG), chromaB);
    // What would leave the range keeps its luma and gives up chroma.
    const room = f32x4.max(f32x4.sub(one, luma), none);
    const depth = f32x4.max(luma, none);
    const upper = v128.bitselect(f32x4.div(room, most), one, f32x4.gt(most, room));
    const under = f32x4.neg(least);
    const lower = v128.bitselect(f32x4.div(depth, under), one, f32x4.gt(under, depth));
    const share = f32x4.min(upper, lower);
    const isGrey = v128.and(f32x4.eq(red, green), f32x4.eq(red, blue));
    const r = v128.bitselect(red, f32x4.add(luma, f32x4.mul(share, chromaR)), isGrey);
    const g = v128.bitselect(green, f32x4.add(luma, f32x4.mul(share, chromaG)), isGrey);
    const l = v128.bitselect(blue, f32x4.add(luma, f32x4.mul(share, chromaB)), isGrey);
    const rgLow = v128.shuffle<f32>(r, g, 0, 4, 1, 5);
    const rgHigh = v128.shuffle<f32>(r, g, 2, 6, 3, 7);
    v128.store(p, v128.shuffle<f32>(rgLow, l, 0, 1, 4, 2));
    v128.store(p, v128.shuffle<f32>(v128.shuffle<f32>(rgLow, l, 3, 5, 3, 3), rgHigh, 0, 1, 4, 5), 16);
    v128.store(p, v128.shuffle<f32>(rgHigh, l, 6, 2, 3, 7), 32);
  }
}

/** What a line of two numbers makes of a value at a pixel. */
function through(line: usize, place: usize, share: usize, value: f32): f32 {
  const pair = v128.load(line + <usize>load<u32>(place));
  const next = v128.shuffle<f64>(pair, pair, 1, 0);
  const q = f32x4.add(pair, f32x4.mul(f32x4.sub(next, pair), v128.load32_splat(share)));
  return f32x4.extract_lane(q, 0) * value + f32x4.extract_lane(q, 1);
}

/**
 * Luma taken apart by three lines, each over what the last one gave, and put together with other weights, in place; see
 * `reweigh` in `core/kernels/base-layers.ts`.
 */
export function reweigh(
  fineLine: usize,
  finePlaces: usize,
  fineShares: usize,
  mediumLine: usize,
  mediumPlaces: usize,
  mediumShares: usize,
  coarseLine: usize,
  coarsePlaces: usize,
  coarseShares: usize,
  fine: f32,
  medium: f32,
  coarse: f32,
  rgb: usize,
  count: i32,
): void {
  for (let i = 0, p = rgb; i < count; i++, p += COLOUR) {
    const each = (<usize>i) << 2;
    const colour = v128.load(p);
    const v = lumaOf(colour);
    const first = through(fineLine, finePlaces + each, fineShares + each, v);
    const second = through(mediumLine, mediumPlaces + each, mediumShares + each, first);
    const third = through(coarseLine, coarsePlaces + each, coarseShares + each, second);
    const wanted = fine * (v - first) + medium * (first - second) + coarse * (second - third);
    const room = wanted > 0 ? <f32>1 - v : v;
    const change: f32 = room > 0 ? (wanted * room) / sqrt<f32>(room * room + wanted * wanted) : 0;
    // Darker keeps the ratios of the channels, lighter half of them: neither gaudy nor grey.
    let scale: f32 = 1;
    let add = change;
    if (v > <f32>1e-3) {
      const ratio = change / v;
      scale = ratio < 0 ? <f32>1 + ratio : <f32>1 + <f32>0.5 * ratio;
      add = ratio < 0 ? 0 : <f32>0.5 * change;
    }
    const made = f32x4.add(f32x4.mul(colour, f32x4.splat(scale)), f32x4.splat(add));
    v128.store64_lane(p, made, 0);
    v128.store32_lane(p, made, 2, 8);
  }
}
