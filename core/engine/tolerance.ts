/** How far a baked table may be from the exact function. */

/** The largest error of a baked table, in encoded units. */
export const TOLERANCE = 0.5 / 255;

/** How far two encoded values are apart, counting only what can be seen. */
export function apart(a: number, b: number): number {
  const off = (a < 0 ? 0 : a > 1 ? 1 : a) - (b < 0 ? 0 : b > 1 ? 1 : b);
  return off < 0 ? -off : off;
}
