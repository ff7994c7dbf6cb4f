/** A sweep of the cheapest way over a grid; see `core/kernels/geodesic.ts`. */

/** The cheapest way to a cell over a neighbour, `by` bytes away, or as it is. */
function over(
  best: f32,
  distance: usize,
  f: usize,
  g: usize,
  h: usize,
  rough: f32,
  by: isize,
  length: f32,
): f32 {
  const from = load<f32>(distance + by) + length;
  if (from >= best) return best;
  const a = load<f32>(f) - load<f32>(f + by);
  const b = load<f32>(g) - load<f32>(g + by);
  const c = load<f32>(h) - load<f32>(h + by);
  const square = a * a + b * b + c * c;
  const way = from + (square * sqrt<f32>(square)) / (square + rough);
  return way < best ? way : best;
}

/**
 * One sweep forward and one backward; `rough` are the squared changes that count as nothing at each cell, more than 0. All planes have a column more on either side and a row above and below, whose distances are
 * far more than any; addresses are those of the first cell.
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
): void {
  const row = (<isize>stride) << 2;
  const slant = length * <f32>1.4142135;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = <isize>y * row + ((<isize>x) << 2);
      const d = distance + at;
      let best = load<f32>(d);
      const r = load<f32>(rough + at);
      best = over(best, d, f + at, g + at, h + at, r, -4, length);
      best = over(best, d, f + at, g + at, h + at, r, -row, length);
      best = over(best, d, f + at, g + at, h + at, r, -row - 4, slant);
      best = over(best, d, f + at, g + at, h + at, r, -row + 4, slant);
      store<f32>(d, best);
    }
  }
  for (let y = height - 1; y >= 0; y--) {
    for (let x = width - 1; x >= 0; x--) {
      const at = <isize>y * row + ((<isize>x) << 2);
      const d = distance + at;
      let best = load<f32>(d);
      const r = load<f32>(rough + at);
      best = over(best, d, f + at, g + at, h + at, r, 4, length);
      best = over(best, d, f + at, g + at, h + at, r, row, length);
      best = over(best, d, f + at, g + at, h + at, r, row + 4, slant);
      best = over(best, d, f + at, g + at, h + at, r, row - 4, slant);
      store<f32>(d, best);
    }
  }
}
