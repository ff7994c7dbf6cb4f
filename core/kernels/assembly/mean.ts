/** Means over squares, and lines through colours; see `core/kernels/planes.ts` and `guided.ts`. Sums in double precision. */

/** A number of each of two rows. */
function both(first: usize, second: usize, x: i32): v128 {
  const at = (<usize>x) << 2;
  return f64x2.promote_low_f32x4(v128.load32_lane(second + at, v128.load32_zero(first + at), 1));
}

/** Writes a mean of each of two rows. */
function storeBoth(sum: v128, count: f64, first: usize, second: usize, x: i32): void {
  const at = (<usize>x) << 2;
  const means = f32x4.demote_f64x2_zero(f64x2.div(sum, f64x2.splat(count)));
  v128.store32_lane(first + at, means, 0);
  v128.store32_lane(second + at, means, 1);
}

/** Means along each row, cut off at its ends; two rows at a time. */
function meansAlong(values: usize, width: i32, height: i32, radius: i32, out: usize): void {
  for (let y = 0; y < height; y += 2) {
    const first = values + ((<usize>(y * width)) << 2);
    const second = values + ((<usize>(min(y + 1, height - 1) * width)) << 2);
    const toFirst = out + (first - values);
    const toSecond = out + (second - values);
    let sum = f64x2.splat(0);
    let count: f64 = 0;
    for (let x = 0; x < min(radius, width); x++) {
      sum = f64x2.add(sum, both(first, second, x));
      count++;
    }
    // Where the window has grown whole, and is not cut off yet, it only moves.
    const wholeFrom = min(radius + 1, width);
    const wholeTo = max(wholeFrom, width - radius);
    let x = 0;
    for (; x < wholeFrom; x++) {
      const enter = x + radius;
      if (enter < width) {
        sum = f64x2.add(sum, both(first, second, enter));
        count++;
      }
      storeBoth(sum, count, toFirst, toSecond, x);
    }
    for (; x < wholeTo; x++) {
      sum = f64x2.add(sum, both(first, second, x + radius));
      sum = f64x2.sub(sum, both(first, second, x - radius - 1));
      storeBoth(sum, count, toFirst, toSecond, x);
    }
    for (; x < width; x++) {
      sum = f64x2.sub(sum, both(first, second, x - radius - 1));
      count--;
      storeBoth(sum, count, toFirst, toSecond, x);
    }
  }
}

/** To each sum a number of a row, times one or less one. `count` is rounded up to four. */
function addRow(row: usize, count: i32, sign: f64, sums: usize): void {
  const by = f64x2.splat(sign);
  for (let x = 0; x < count; x += 4) {
    const four = v128.load(row + ((<usize>x) << 2));
    const to = sums + ((<usize>x) << 3);
    const low = f64x2.promote_low_f32x4(four);
    const high = f64x2.promote_low_f32x4(v128.shuffle<f64>(four, four, 1, 0));
    v128.store(to, f64x2.add(v128.load(to), f64x2.mul(by, low)));
    v128.store(to, f64x2.add(v128.load(to, 16), f64x2.mul(by, high)), 16);
  }
}

/**
 * The mean over a square about each number of a plane, cut off at the plane's edges.
 * @param across room for a plane, and some bytes more
 * @param sums room for a row of double precision, rounded up to four
 */
export function boxMean(
  values: usize,
  width: i32,
  height: i32,
  radius: i32,
  across: usize,
  sums: usize,
  out: usize,
): void {
  meansAlong(values, width, height, radius, across);
  memory.fill(sums, 0, (<usize>(width + 3)) << 3);
  const rowBytes = (<usize>width) << 2;
  let count: f64 = 0;
  for (let y = 0; y < min(radius, height); y++) {
    addRow(across + <usize>y * rowBytes, width, 1, sums);
    count++;
  }
  for (let y = 0; y < height; y++) {
    const enter = y + radius;
    if (enter < height) {
      addRow(across + <usize>enter * rowBytes, width, 1, sums);
      count++;
    }
    const leave = y - radius - 1;
    if (leave >= 0) {
      addRow(across + <usize>leave * rowBytes, width, -1, sums);
      count--;
    }
    const by = f64x2.splat(count);
    const to = out + <usize>y * rowBytes;
    for (let x = 0; x < width; x += 2) {
      const two = f32x4.demote_f64x2_zero(f64x2.div(v128.load(sums + ((<usize>x) << 3)), by));
      v128.store64_lane(to + ((<usize>x) << 2), two, 0);
    }
  }
}

/** A number of a plane of many that lie one after another. */
function numberAt(planes: usize, plane: i32, bytes: usize, at: usize): f64 {
  return <f64>load<f32>(planes + <usize>plane * bytes + at);
}

/**
 * The lines that best give an input over three channels, at each pixel: a 3 by 3 system each.
 * @param guide nine planes one after another: means of red, green, blue, and of their products rr rg rb gg gb bb
 * @param input four planes: the mean of the input, and of its products with red, green and blue
 * @param bytes how many lie from one plane to the next
 * @param lines four planes: what is found for red, green, blue, and what is added
 */
export function colourLines(
  guide: usize,
  input: usize,
  count: i32,
  bytes: usize,
  epsilon: f64,
  lines: usize,
): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2;
    const r = numberAt(guide, 0, bytes, at);
    const g = numberAt(guide, 1, bytes, at);
    const b = numberAt(guide, 2, bytes, at);
    const rr = numberAt(guide, 3, bytes, at) - r * r + epsilon;
    const rg = numberAt(guide, 4, bytes, at) - r * g;
    const rb = numberAt(guide, 5, bytes, at) - r * b;
    const gg = numberAt(guide, 6, bytes, at) - g * g + epsilon;
    const gb = numberAt(guide, 7, bytes, at) - g * b;
    const bb = numberAt(guide, 8, bytes, at) - b * b + epsilon;
    const c00 = gg * bb - gb * gb;
    const c01 = rb * gb - rg * bb;
    const c02 = rg * gb - rb * gg;
    const c11 = rr * bb - rb * rb;
    const c12 = rg * rb - rr * gb;
    const c22 = rr * gg - rg * rg;
    const determinant = rr * c00 + rg * c01 + rb * c02;
    const p = numberAt(input, 0, bytes, at);
    const rp = numberAt(input, 1, bytes, at) - r * p;
    const gp = numberAt(input, 2, bytes, at) - g * p;
    const bp = numberAt(input, 3, bytes, at) - b * p;
    const ar = (c00 * rp + c01 * gp + c02 * bp) / determinant;
    const ag = (c01 * rp + c11 * gp + c12 * bp) / determinant;
    const ab = (c02 * rp + c12 * gp + c22 * bp) / determinant;
    store<f32>(lines + at, <f32>ar);
    store<f32>(lines + bytes + at, <f32>ag);
    store<f32>(lines + 2 * bytes + at, <f32>ab);
    store<f32>(lines + 3 * bytes + at, <f32>(p - ar * r - ag * g - ab * b));
  }
}
