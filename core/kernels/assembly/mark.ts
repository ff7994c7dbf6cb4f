/** Marks which cells of a table colours fall into; see `core/kernels/occupied.ts`. */

/** @param cell of each code along an axis: a byte, 0..127 */
function markAll<T>(codes: usize, count: i32, cell: usize, cells: usize): void {
  const code = sizeof<T>();
  for (let i = 0, p = codes; i < count; i++, p += 3 * code) {
    const r = <usize>load<u8>(cell + <usize>load<T>(p));
    const g = <usize>load<u8>(cell + <usize>load<T>(p + code));
    const b = <usize>load<u8>(cell + <usize>load<T>(p + 2 * code));
    store<u8>(cells + ((r << 14) | (g << 7) | b), 1);
  }
}

export function mark16(codes: usize, count: i32, cell: usize, cells: usize): void {
  markAll<u16>(codes, count, cell, cells);
}

export function mark8(codes: usize, count: i32, cell: usize, cells: usize): void {
  markAll<u8>(codes, count, cell, cells);
}
