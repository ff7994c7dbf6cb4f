/** A sweep of the cheapest way over a grid; see `core/kernels/geodesic.ts`. */

/** What a step of four cells to their neighbours, `by` bytes away, costs beside its length. */
function change(f: usize, g: usize, h: usize, rough: v128, by: isize): v128 {
  const a = f32x4.sub(v128.load(f), v128.load(f + by));
  const b = f32x4.sub(v128.load(g), v128.load(g + by));
  const c = f32x4.sub(v128.load(h), v128.load(h + by));
  const square = f32x4.add(f32x4.add(f32x4.mul(a, a), f32x4.mul(b, b)), f32x4.mul(c, c));
  return f32x4.div(f32x4.mul(square, f32x4.sqrt(square)), f32x4.add(square, rough));
}

/** The cheapest way to four cells over neighbours, or as it is. */
function over(
  best: v128,
  distance: usize,
  f: usize,
  g: usize,
  h: usize,
  rough: v128,
  by: isize,
  length: v128,
): v128 {
  const way = f32x4.add(f32x4.add(v128.load(distance + by), length), change(f, g, h, rough, by));
  return f32x4.pmin(best, way);
}

/**
 * The ways to a row from the one `by` bytes away, straight and slanting; and what a step along the row costs. Four cells at a time, the last
 * of them beyond the row: what lies there is put back.
 */
function fromRow(
  d: usize,
  f: usize,
  g: usize,
  h: usize,
  rough: usize,
  width: i32,
  by: isize,
  along: isize,
  length: f32,
  costs: usize,
): void {
  const straight = f32x4.splat(length);
  const slant = f32x4.splat(length * <f32>1.4142135);
  const end = d + ((<usize>width) << 2);
  const first = v128.load(end);
  for (let x = 0; x < width; x += 4) {
    const at = (<usize>x) << 2;
    const r = v128.load(rough + at);
    let best = v128.load(d + at);
    best = over(best, d + at, f + at, g + at, h + at, r, by, straight);
    best = over(best, d + at, f + at, g + at, h + at, r, by - 4, slant);
    best = over(best, d + at, f + at, g + at, h + at, r, by + 4, slant);
    v128.store(d + at, best);
    v128.store(costs + at, f32x4.add(straight, change(f + at, g + at, h + at, r, along)));
  }
  v128.store(end, first);
}

/**
 * One sweep forward and one backward; `rough` are the squared changes that count as nothing at each cell, more than 0. All planes have four columns
 * more on either side and a row above and below, whose distances are far more than any; addresses are those of the first cell.
 * @param costs room for a row, and four numbers more
 */
export function sweepWay(
  distance: usize,
  f: usize,
  g: usize,
  h: usize,
  rough: usize,
  stride: i32,
  width: i32,
  height: i32,
  length: f32,
  costs: usize,
): void {
  const row = (<isize>stride) << 2;
  for (let y = 0; y < height; y++) {
    const at = <isize>y * row;
    const d = distance + at;
    fromRow(d, f + at, g + at, h + at, rough + at, width, -row, -4, length, costs);
    let last = load<f32>(d - 4);
    for (let x = 0; x < width; x++) {
      const cell = (<usize>x) << 2;
      const way = last + load<f32>(costs + cell);
      last = load<f32>(d + cell);
      if (way < last) {
        last = way;
        store<f32>(d + cell, way);
      }
    }
  }
  for (let y = height - 1; y >= 0; y--) {
    const at = <isize>y * row;
    const d = distance + at;
    fromRow(d, f + at, g + at, h + at, rough + at, width, row, 4, length, costs);
    let last = load<f32>(d + ((<usize>width) << 2));
    for (let x = width - 1; x >= 0; x--) {
      const cell = (<usize>x) << 2;
      const way = last + load<f32>(costs + cell);
      last = load<f32>(d + cell);
      if (way < last) {
        last = way;
        store<f32>(d + cell, way);
      }
    }
  }
}
