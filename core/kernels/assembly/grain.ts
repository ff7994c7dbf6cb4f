import { COLOUR, lumaOf, put } from './colours';

/** Gradient noise by a hash of position and seed, four places at a time, and grain added; see `core/kernels/grain.ts`. */

const ALONG_X: i32 = 0x27d4eb2d;
const ALONG_Y: i32 = 0x165667b1;

/** Numbers 0 to 7 that a place on the lattice hashes to, as the bytes of four entries of a table of floats. */
function entries(x: v128, y: v128): v128 {
  let h = v128.xor(x, y);
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(0x85ebca6b));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(0xc2b2ae35));
  h = v128.xor(h, i32x4.shr_u(h, 16));
  // The lowest byte four times, each four times as much.
  const which = i8x16.swizzle(
    i32x4.shl(v128.and(h, i32x4.splat(7)), 2),
    i8x16(0, 0, 0, 0, 4, 4, 4, 4, 8, 8, 8, 8, 12, 12, 12, 12),
  );
  return v128.or(which, i32x4.splat(0x03020100));
}

/** What a gradient makes of the way from its place: eight gradients, along both axes, in tables of four each. */
function slope(at: v128, x: v128, y: v128): v128 {
  const later = i8x16.sub(at, i8x16.splat(16));
  const gx = v128.or(
    i8x16.swizzle(f32x4(1, 1, -1, -1), at),
    i8x16.swizzle(f32x4(1.4142135, -1.4142135, 0, 0), later),
  );
  const gy = v128.or(
    i8x16.swizzle(f32x4(1, -1, 1, -1), at),
    i8x16.swizzle(f32x4(0, 0, 1.4142135, -1.4142135), later),
  );
  return f32x4.add(f32x4.mul(gx, x), f32x4.mul(gy, y));
}

/** The curve along which one gradient gives way to the next: 6t⁵ − 15t⁴ + 10t³. */
function fade(t: v128): v128 {
  const inner = f32x4.sub(f32x4.mul(t, f32x4.splat(6)), f32x4.splat(15));
  const outer = f32x4.add(f32x4.mul(t, inner), f32x4.splat(10));
  return f32x4.mul(f32x4.mul(f32x4.mul(t, t), t), outer);
}

/** @param x0, x1 two places each along x; y0, y1 along y: double precision, since there are thousands of grains */
function noise(x0: v128, x1: v128, y0: v128, y1: v128, seed: i32): v128 {
  const wx0 = f64x2.floor(x0);
  const wx1 = f64x2.floor(x1);
  const wy0 = f64x2.floor(y0);
  const wy1 = f64x2.floor(y1);
  const fx = v128.shuffle<f64>(
    f32x4.demote_f64x2_zero(f64x2.sub(x0, wx0)),
    f32x4.demote_f64x2_zero(f64x2.sub(x1, wx1)),
    0,
    2,
  );
  const fy = v128.shuffle<f64>(
    f32x4.demote_f64x2_zero(f64x2.sub(y0, wy0)),
    f32x4.demote_f64x2_zero(f64x2.sub(y1, wy1)),
    0,
    2,
  );
  const ix = v128.shuffle<f64>(i32x4.trunc_sat_f64x2_s_zero(wx0), i32x4.trunc_sat_f64x2_s_zero(wx1), 0, 2);
  const iy = v128.shuffle<f64>(i32x4.trunc_sat_f64x2_s_zero(wy0), i32x4.trunc_sat_f64x2_s_zero(wy1), 0, 2);
  const left = v128.xor(i32x4.mul(ix, i32x4.splat(ALONG_X)), i32x4.splat(seed));
  const right = v128.xor(i32x4.mul(i32x4.add(ix, i32x4.splat(1)), i32x4.splat(ALONG_X)), i32x4.splat(seed));
  const above = i32x4.mul(iy, i32x4.splat(ALONG_Y));
  const below = i32x4.add(above, i32x4.splat(ALONG_Y));
  const one = f32x4.splat(1);
  const gx = f32x4.sub(fx, one);
  const gy = f32x4.sub(fy, one);
  const a = slope(entries(left, above), fx, fy);
  const b = slope(entries(right, above), gx, fy);
  const c = slope(entries(left, below), fx, gy);
  const d = slope(entries(right, below), gx, gy);
  const u = fade(fx);
  const top = f32x4.add(a, f32x4.mul(u, f32x4.sub(b, a)));
  const bottom = f32x4.add(c, f32x4.mul(u, f32x4.sub(d, c)));
  return f32x4.add(top, f32x4.mul(fade(fy), f32x4.sub(bottom, top)));
}

/** Places along a row: of pixel x, `row + x · step`; the same whichever part of the row is asked for. `count` is rounded up to two. */
export function along(out: usize, count: i32, from: i32, row: f64, step: f64): void {
  const start = f64x2.splat(row);
  const by = f64x2.splat(step);
  const two = f64x2.splat(2);
  let x = f64x2(<f64>from, <f64>from + 1);
  for (let i = 0, o = out; i < count; i += 2, o += 16) {
    v128.store(o, f64x2.add(start, f64x2.mul(x, by)));
    x = f64x2.add(x, two);
  }
}

/**
 * The grain at places given in grains. `count` is rounded up to four.
 * @param first and second weights of the octaves; `clumping` how unevenly it is strewn, in places so many grains wide
 */
export function grains(
  xs: usize,
  ys: usize,
  count: i32,
  first: f32,
  second: f32,
  clumping: f32,
  clump: f64,
  seed: i32,
  out: usize,
): void {
  const half = f64x2.splat(2.03);
  const asideX = f64x2.splat(7.7);
  const asideY = f64x2.splat(3.1);
  const wide = f64x2.splat(1 / clump);
  for (let i = 0, x = xs, y = ys, o = out; i < count; i += 4, x += 32, y += 32, o += 16) {
    const x0 = v128.load(x);
    const x1 = v128.load(x, 16);
    const y0 = v128.load(y);
    const y1 = v128.load(y, 16);
    let grain = f32x4.mul(f32x4.splat(first), noise(x0, x1, y0, y1, seed));
    grain = f32x4.add(
      grain,
      f32x4.mul(
        f32x4.splat(second),
        noise(
          f64x2.add(f64x2.mul(x0, half), asideX),
          f64x2.add(f64x2.mul(x1, half), asideX),
          f64x2.add(f64x2.mul(y0, half), asideY),
          f64x2.add(f64x2.mul(y1, half), asideY),
          ~seed,
        ),
      ),
    );
    if (clumping > 0) {
      const strewn = noise(
        f64x2.mul(x0, wide),
        f64x2.mul(x1, wide),
        f64x2.mul(y0, wide),
        f64x2.mul(y1, wide),
        seed ^ 0x5bd1e995,
      );
      grain = f32x4.mul(grain, f32x4.add(f32x4.splat(1), f32x4.mul(f32x4.splat(clumping), strewn)));
    }
    v128.store(o, grain);
  }
}

/**
 * The lattice of one octave along a row of pixels that runs along one of its axes: two numbers a column, by which it acts
 * on what lies at its right as `rise · way + rest`, the gradients above and below the row blended by where the row lies
 * between them. `count` is rounded up to four.
 * @param from the first column; `across` the lattice row above; `way` down from it, 0..1
 * @param turned the row runs along the lattice's second axis
 */
export function columns(
  from: i32,
  count: i32,
  across: i32,
  way: f32,
  seed: i32,
  turned: bool,
  out: usize,
): void {
  const alongHash = i32x4.splat(turned ? ALONG_Y : ALONG_X);
  const acrossHash = turned ? ALONG_X : ALONG_Y;
  const above = i32x4.splat((across * acrossHash) ^ seed);
  const below = i32x4.splat(((across + 1) * acrossHash) ^ seed);
  const v = fade(f32x4.splat(way));
  const down = f32x4.splat(way);
  const up = f32x4.splat(way - 1);
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  let column = i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3));
  for (let i = 0, o = out; i < count; i += 4, o += 32) {
    const h = i32x4.mul(column, alongHash);
    const a = entries(h, above);
    const b = entries(h, below);
    const riseA = turned ? slope(a, none, one) : slope(a, one, none);
    const riseB = turned ? slope(b, none, one) : slope(b, one, none);
    const restA = turned ? slope(a, down, none) : slope(a, none, down);
    const restB = turned ? slope(b, up, none) : slope(b, none, up);
    const rise = f32x4.add(riseA, f32x4.mul(v, f32x4.sub(riseB, riseA)));
    const rest = f32x4.add(restA, f32x4.mul(v, f32x4.sub(restB, restA)));
    v128.store(o, v128.shuffle<f32>(rise, rest, 0, 4, 1, 5));
    v128.store(o, v128.shuffle<f32>(rise, rest, 2, 6, 3, 7), 16);
    column = i32x4.add(column, i32x4.splat(4));
  }
}

/** The noise at four places along a row, from the columns of its lattice. */
function between(x0: v128, x1: v128, columns: usize, from: i32): v128 {
  const w0 = f64x2.floor(x0);
  const w1 = f64x2.floor(x1);
  const f = v128.shuffle<f64>(
    f32x4.demote_f64x2_zero(f64x2.sub(x0, w0)),
    f32x4.demote_f64x2_zero(f64x2.sub(x1, w1)),
    0,
    2,
  );
  const whole = v128.shuffle<f64>(i32x4.trunc_sat_f64x2_s_zero(w0), i32x4.trunc_sat_f64x2_s_zero(w1), 0, 2);
  const at = i32x4.shl(i32x4.sub(whole, i32x4.splat(from)), 3);
  const a = v128.load(columns + <usize>i32x4.extract_lane(at, 0));
  const b = v128.load(columns + <usize>i32x4.extract_lane(at, 1));
  const c = v128.load(columns + <usize>i32x4.extract_lane(at, 2));
  const d = v128.load(columns + <usize>i32x4.extract_lane(at, 3));
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const abNext = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cdNext = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  const left = f32x4.add(f32x4.mul(v128.shuffle<f64>(ab, cd, 0, 2), f), v128.shuffle<f64>(ab, cd, 1, 3));
  const right = f32x4.add(
    f32x4.mul(v128.shuffle<f64>(abNext, cdNext, 0, 2), f32x4.sub(f, f32x4.splat(1))),
    v128.shuffle<f64>(abNext, cdNext, 1, 3),
  );
  return f32x4.add(left, f32x4.mul(fade(f), f32x4.sub(right, left)));
}

/** The grain of a row of pixels, from the columns of its three lattices; places as `along` gives them, the rest as `grains`. */
export function strewn(
  xs: usize,
  count: i32,
  firstColumns: usize,
  firstFrom: i32,
  secondColumns: usize,
  secondFrom: i32,
  clumpColumns: usize,
  clumpFrom: i32,
  aside: f64,
  first: f32,
  second: f32,
  clumping: f32,
  clump: f64,
  out: usize,
): void {
  const half = f64x2.splat(2.03);
  const to = f64x2.splat(aside);
  const wide = f64x2.splat(1 / clump);
  for (let i = 0, x = xs, o = out; i < count; i += 4, x += 32, o += 16) {
    const x0 = v128.load(x);
    const x1 = v128.load(x, 16);
    let grain = f32x4.mul(f32x4.splat(first), between(x0, x1, firstColumns, firstFrom));
    const finer = between(
      f64x2.add(f64x2.mul(x0, half), to),
      f64x2.add(f64x2.mul(x1, half), to),
      secondColumns,
      secondFrom,
    );
    grain = f32x4.add(grain, f32x4.mul(f32x4.splat(second), finer));
    if (clumping > 0) {
      const unevenly = between(f64x2.mul(x0, wide), f64x2.mul(x1, wide), clumpColumns, clumpFrom);
      grain = f32x4.mul(grain, f32x4.add(f32x4.splat(1), f32x4.mul(f32x4.splat(clumping), unevenly)));
    }
    v128.store(o, grain);
  }
}

/** Adds grain to encoded colours, in place: strongest in the midtones, none at black and white. */
export function addGrain(rgb: usize, grains: usize, count: i32, depth: f32): void {
  for (let i = 0, p = rgb, g = grains; i < count; i++, p += COLOUR, g += 4) {
    const v = v128.load(p);
    const tone = lumaOf(v);
    const room = max(<f32>4 * tone * (<f32>1 - tone), <f32>0);
    put(p, f32x4.add(v, f32x4.splat(depth * load<f32>(g) * sqrt<f32>(room))));
  }
}
