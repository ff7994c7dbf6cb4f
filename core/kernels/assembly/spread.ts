/**
 * Steps of a solver over grids of cells that have something in common with their neighbours; see `core/kernels/harmonic.ts`. All
 * planes have a row above and below and four numbers before and after each row, which are 0 and stay so; rows are a multiple of
 * four long. Addresses are those of the first cell.
 */

/** What a cell has in common with all and is held by, where only what it is held by stood, and one over that or nothing. */
export function diagonals(
  right: usize,
  down: usize,
  diagonal: usize,
  inverse: usize,
  stride: i32,
  width: i32,
  height: i32,
): void {
  const row = (<usize>stride) << 2;
  for (let y = 0; y < height; y++) {
    const from = <usize>y * row;
    for (let c = 0; c < width; c += 4) {
      const at = from + ((<usize>c) << 2);
      let sum = f32x4.add(v128.load(diagonal + at), v128.load(right + at));
      sum = f32x4.add(sum, v128.load(right + at - 4));
      sum = f32x4.add(sum, v128.load(down + at));
      sum = f32x4.add(sum, v128.load(down + at - row));
      v128.store(diagonal + at, sum);
      const over = f32x4.div(f32x4.splat(1), sum);
      v128.store(inverse + at, v128.and(over, f32x4.gt(sum, f32x4.splat(0))));
    }
  }
}

/** b - A x of four cells. */
function restOf(x: usize, right: usize, down: usize, diagonal: usize, b: usize, row: usize): v128 {
  let sum = f32x4.sub(v128.load(b), f32x4.mul(v128.load(diagonal), v128.load(x)));
  sum = f32x4.add(sum, f32x4.mul(v128.load(right), v128.load(x + 4)));
  sum = f32x4.add(sum, f32x4.mul(v128.load(right - 4), v128.load(x - 4)));
  sum = f32x4.add(sum, f32x4.mul(v128.load(down), v128.load(x + row)));
  return f32x4.add(sum, f32x4.mul(v128.load(down - row), v128.load(x - row)));
}

/** out = b - A x, where A is what a cell has in common with all on its diagonal, less what with each neighbour beside it. */
export function spreadRest(
  x: usize,
  right: usize,
  down: usize,
  diagonal: usize,
  b: usize,
  out: usize,
  stride: i32,
  width: i32,
  height: i32,
): void {
  const row = (<usize>stride) << 2;
  for (let y = 0; y < height; y++) {
    const from = <usize>y * row;
    for (let c = 0; c < width; c += 4) {
      const at = from + ((<usize>c) << 2);
      v128.store(out + at, restOf(x + at, right + at, down + at, diagonal + at, b + at, row));
    }
  }
}

/** out = x + by * inverse * (b - A x): every cell goes towards what its neighbours say. */
export function spreadStep(
  x: usize,
  right: usize,
  down: usize,
  diagonal: usize,
  inverse: usize,
  b: usize,
  out: usize,
  by: f32,
  stride: i32,
  width: i32,
  height: i32,
): void {
  const row = (<usize>stride) << 2;
  const times = f32x4.splat(by);
  for (let y = 0; y < height; y++) {
    const from = <usize>y * row;
    for (let c = 0; c < width; c += 4) {
      const at = from + ((<usize>c) << 2);
      const is = v128.load(x + at);
      const rest = f32x4.mul(times, restOf(x + at, right + at, down + at, diagonal + at, b + at, row));
      v128.store(out + at, f32x4.add(is, f32x4.mul(v128.load(inverse + at), rest)));
    }
  }
}

/** out = by * a * b, number by number. */
export function products(a: usize, b: usize, out: usize, by: f32, count: i32): void {
  const times = f32x4.splat(by);
  for (let i = 0; i < count; i += 4, a += 16, b += 16, out += 16) {
    v128.store(out, f32x4.mul(times, f32x4.mul(v128.load(a), v128.load(b))));
  }
}

/** x = a + by * x. */
export function addTo(x: usize, a: usize, by: f32, count: i32): void {
  const times = f32x4.splat(by);
  for (let i = 0; i < count; i += 4, x += 16, a += 16) {
    v128.store(x, f32x4.add(v128.load(a), f32x4.mul(times, v128.load(x))));
  }
}

/** x += by * a. */
export function addScaled(x: usize, a: usize, by: f32, count: i32): void {
  const times = f32x4.splat(by);
  for (let i = 0; i < count; i += 4, x += 16, a += 16) {
    v128.store(x, f32x4.add(v128.load(x), f32x4.mul(times, v128.load(a))));
  }
}

/** The sum of four numbers. */
function across(v: v128): f64 {
  return (
    <f64>f32x4.extract_lane(v, 0) +
    <f64>f32x4.extract_lane(v, 1) +
    <f64>f32x4.extract_lane(v, 2) +
    <f64>f32x4.extract_lane(v, 3)
  );
}

/** Numbers added up in single precision before they are in double. */
const RUN: i32 = 256;

/** The sum of a * b over all numbers. */
export function sumOfProducts(a: usize, b: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let i = 0; i < count;) {
    let part = f32x4.splat(0);
    for (const end = min(count, i + RUN); i < end; i += 4, a += 16, b += 16) {
      part = f32x4.add(part, f32x4.mul(v128.load(a), v128.load(b)));
    }
    sum += across(part);
  }
  return sum;
}

/** The sum of a * a * weight over all numbers. */
export function weightedSquares(a: usize, weight: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let i = 0; i < count;) {
    let part = f32x4.splat(0);
    for (const end = min(count, i + RUN); i < end; i += 4, a += 16, weight += 16) {
      const v = v128.load(a);
      part = f32x4.add(part, f32x4.mul(f32x4.mul(v, v), v128.load(weight)));
    }
    sum += across(part);
  }
  return sum;
}

/** Each coarse cell the sum of its 2 by 2 fine ones. */
export function gather(
  fine: usize,
  stride: i32,
  coarse: usize,
  coarseStride: i32,
  width: i32,
  height: i32,
): void {
  for (let y = 0; y < height; y++) {
    let above = fine + ((<usize>(2 * y * stride)) << 2);
    let below = above + ((<usize>stride) << 2);
    let out = coarse + ((<usize>(y * coarseStride)) << 2);
    for (let x = 0; x < width; x++, above += 8, below += 8, out += 4) {
      store<f32>(out, load<f32>(above) + load<f32>(above, 4) + load<f32>(below) + load<f32>(below, 4));
    }
  }
}

/** Each fine cell is given `by` times its coarse one; width and height are those of the coarse grid. */
export function scatter(
  fine: usize,
  stride: i32,
  coarse: usize,
  coarseStride: i32,
  width: i32,
  height: i32,
  by: f32,
): void {
  for (let y = 0; y < height; y++) {
    let above = fine + ((<usize>(2 * y * stride)) << 2);
    let below = above + ((<usize>stride) << 2);
    let from = coarse + ((<usize>(y * coarseStride)) << 2);
    for (let x = 0; x < width; x++, above += 8, below += 8, from += 4) {
      const v = by * load<f32>(from);
      store<f32>(above, load<f32>(above) + v);
      store<f32>(above, load<f32>(above, 4) + v, 4);
      store<f32>(below, load<f32>(below) + v);
      store<f32>(below, load<f32>(below, 4) + v, 4);
    }
  }
}
