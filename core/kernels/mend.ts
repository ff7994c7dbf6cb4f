import { mostCode, type Codes } from './grid';

/** Pixels that a table with holes gave no number for, computed exactly: what came in is codes. */

type Point = (colour: Float64Array) => void;

/** Greys, one a pixel. */
export function mendGreys(
  greys: Float32Array,
  codes: Codes,
  from: number,
  count: number,
  point: Point,
): void {
  const c = new Float64Array(3);
  const most = mostCode(codes);
  for (let i = 0; i < count; i++) {
    if (Number.isFinite(greys[i])) continue;
    for (let k = 0; k < 3; k++) c[k] = codes[(from + i) * 3 + k] / most;
    point(c);
    greys[i] = c[0];
  }
}

/** Colours, three numbers a pixel. */
export function mendColours(
  rgb: Float32Array,
  codes: Codes,
  from: number,
  count: number,
  point: Point,
): void {
  const c = new Float64Array(3);
  const most = mostCode(codes);
  for (let i = 0; i < count; i++) {
    if (Number.isFinite(rgb[i * 3])) continue;
    for (let k = 0; k < 3; k++) c[k] = codes[(from + i) * 3 + k] / most;
    point(c);
    for (let k = 0; k < 3; k++) rgb[i * 3 + k] = c[k];
  }
}

/** Colours that a ramp over greys gave no number for. */
export function mendRamp(rgb: Float32Array, greys: Float32Array, count: number, point: Point): void {
  const c = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    if (rgb[i * 3] === rgb[i * 3]) continue;
    c.fill(greys[i]);
    point(c);
    for (let k = 0; k < 3; k++) rgb[i * 3 + k] = c[k];
  }
}
