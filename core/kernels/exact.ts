/** Runs a function of a colour over interleaved RGB, in place. */
export function runExact(point: (colour: Float64Array) => void, values: Float32Array, count: number): void {
  const c = new Float64Array(3);
  for (let i = 0; i < count * 3; i += 3) {
    c[0] = values[i];
    c[1] = values[i + 1];
    c[2] = values[i + 2];
    point(c);
    values[i] = c[0];
    values[i + 1] = c[1];
    values[i + 2] = c[2];
  }
}
