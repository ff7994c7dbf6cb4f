/**
 * How far each cell of a grid lies from the nearest of some cells, in cells, exactly and in two passes. Source: P. Felzenszwalb,
 * D. Huttenlocher, "Distance Transforms of Sampled Functions", Theory of Computing 8, 2012: the lower envelope of parabolas.
 */

/** Further than any grid reaches, squared. */
const NONE = 1e12;

/** One line: `f` in, squared distances out in its place; the others are room for the envelope. */
function alongLine(f: Float64Array, n: number, out: Float64Array, at: Int32Array, from: Float64Array): void {
  let k = 0;
  at[0] = 0;
  from[0] = -Infinity;
  from[1] = Infinity;
  for (let q = 1; q < n; q++) {
    let s: number;
    do {
      const p = at[k];
      s = (f[q] + q * q - (f[p] + p * p)) / (2 * (q - p));
    } while (s <= from[k] && k-- > 0);
    k++;
    at[k] = q;
    from[k] = s;
    from[k + 1] = Infinity;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while (from[k + 1] < q) k++;
    const off = q - at[k];
    out[q] = off * off + f[at[k]];
  }
}

/**
 * @param cells 1 for those that are measured to, else 0
 * @returns distances, 0 in them; where there are none, far more than the grid is wide
 */
export function distances(width: number, height: number, cells: Uint8Array): Float32Array {
  // Along rows by two scans, written column by column, so that the second pass reads what lies together.
  const squared = new Float64Array(width * height);
  const row = new Float64Array(width);
  for (let y = 0, first = 0; y < height; y++, first += width) {
    let last = -NONE;
    for (let x = 0; x < width; x++) {
      if (cells[first + x]) last = x;
      row[x] = x - last;
    }
    let next = NONE;
    for (let x = width - 1; x >= 0; x--) {
      if (cells[first + x]) next = x;
      const near = Math.min(row[x], next - x);
      squared[x * height + y] = near < width ? near * near : NONE;
    }
  }
  const out = new Float64Array(height);
  const at = new Int32Array(height + 1);
  const from = new Float64Array(height + 2);
  const values = new Float32Array(width * height);
  for (let x = 0; x < width; x++) {
    alongLine(squared.subarray(x * height, (x + 1) * height), height, out, at, from);
    for (let y = 0, i = x; y < height; y++, i += width) values[i] = Math.sqrt(out[y]);
  }
  return values;
}
