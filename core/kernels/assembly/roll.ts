/** A round of a filter that reads likeness in a guide; see `core/kernels/rolling.ts`. */

/** Further from every number than likeness reaches: nothing is alike. */
const FAR: f32 = 1e6;

/**
 * The mean about each number of what is alike there in the guide. Both planes have `radius` rows above and below, as many
 * numbers before and after each row, and eight more at its end: in the guide these are far from all others.
 * @param guide,values,out addresses of the first number in the plane; the numbers about those of `out` stay far
 * @param stride numbers from one row to the next
 * @param taps 2 radius + 1 squared: the weight of each place about one
 * @param likeness what a difference is multiplied by: at 1 a sixteenth of the weight is left
 */
export function rollRound(
  guide: usize,
  values: usize,
  stride: i32,
  width: i32,
  height: i32,
  radius: i32,
  taps: usize,
  likeness: f32,
  out: usize,
): void {
  const rowBytes = (<usize>stride) << 2;
  const one = f32x4.splat(1);
  const share = f32x4.splat(likeness);
  const side = 2 * radius + 1;
  for (let y = 0; y < height; y++) {
    const row = <usize>y * rowBytes;
    for (let x = 0; x < width; x += 8) {
      const own = row + ((<usize>x) << 2);
      const here = v128.load(guide + own);
      const there = v128.load(guide + own, 16);
      let sum = f32x4.splat(0);
      let weights = f32x4.splat(0);
      let nextSum = f32x4.splat(0);
      let nextWeights = f32x4.splat(0);
      let tapAt = taps;
      let rowAt = own - <usize>radius * rowBytes - ((<usize>radius) << 2);
      for (let v = 0; v < side; v++, rowAt += rowBytes) {
        for (let u = 0, at = rowAt; u < side; u++, at += 4, tapAt += 4) {
          const tap = v128.load32_splat(tapAt);
          const off = f32x4.mul(f32x4.sub(v128.load(guide + at), here), share);
          const nextOff = f32x4.mul(f32x4.sub(v128.load(guide + at, 16), there), share);
          const q = f32x4.add(one, f32x4.mul(off, off));
          const nextQ = f32x4.add(one, f32x4.mul(nextOff, nextOff));
          const q2 = f32x4.mul(q, q);
          const nextQ2 = f32x4.mul(nextQ, nextQ);
          const weight = f32x4.div(tap, f32x4.mul(q2, q2));
          const nextWeight = f32x4.div(tap, f32x4.mul(nextQ2, nextQ2));
          sum = f32x4.add(sum, f32x4.mul(weight, v128.load(values + at)));
          nextSum = f32x4.add(nextSum, f32x4.mul(nextWeight, v128.load(values + at, 16)));
          weights = f32x4.add(weights, weight);
          nextWeights = f32x4.add(nextWeights, nextWeight);
        }
      }
      v128.store(out + own, f32x4.div(sum, weights));
      v128.store(out + own, f32x4.div(nextSum, nextWeights), 16);
    }
    // What was written beyond the end of the row.
    for (let x = width; x & 7; x++) store<f32>(out + row + ((<usize>x) << 2), FAR);
  }
}
