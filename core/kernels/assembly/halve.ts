/** Half the size in linear light; see `core/kernels/halve.ts`. In double precision, as the interface's own code would. */

/** Steps of the table from linear light to encoded values. */
const STEPS: f64 = 65536;

function encoded(light: f64, table: usize): f64 {
  const at = light * STEPS;
  const i = <i32>at;
  const from = table + ((<usize>i) << 3);
  const low = load<f64>(from);
  return low + (load<f64>(from, 8) - low) * (at - <f64>i);
}

/** One row of half the width from two rows; where the width is odd the last column stands for itself. */
function halveAll<T>(above: usize, below: usize, width: i32, light: usize, table: usize, out: usize): void {
  const code = sizeof<T>();
  const last = width - 1;
  for (let x = 0, o = out; x < width; x += 2, o += 6) {
    const left = <usize>x * 3 * code;
    const right = x < last ? left + 3 * code : left;
    for (let k: usize = 0; k < 3; k++) {
      const at = k * code;
      const sum =
        load<f64>(light + ((<usize>load<T>(above + left + at)) << 3)) +
        load<f64>(light + ((<usize>load<T>(above + right + at)) << 3)) +
        load<f64>(light + ((<usize>load<T>(below + left + at)) << 3)) +
        load<f64>(light + ((<usize>load<T>(below + right + at)) << 3));
      store<u16>(o + (k << 1), <u16>(<i32>(encoded(sum, table) * 65535 + 0.5)));
    }
  }
}

export function halve16(
  above: usize,
  below: usize,
  width: i32,
  light: usize,
  table: usize,
  out: usize,
): void {
  halveAll<u16>(above, below, width, light, table, out);
}

export function halve8(above: usize, below: usize, width: i32, light: usize, table: usize, out: usize): void {
  halveAll<u8>(above, below, width, light, table, out);
}
