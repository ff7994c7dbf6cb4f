import { laidOut } from './compiled';
import type { ColourGuided } from './guided';

/** What is said of cells: how it falls with the way, how it is weighed, and how it is drawn to edges. */

/** What is said falls to a third with so long a way, and beyond the furthest is nothing; in place. */
export function heard(evidence: Float32Array, way: Float32Array, length: number, furthest: number): void {
  const { at, views, kernels } = laidOut(evidence.length, evidence, way);
  kernels.heard(at[0], at[1], evidence.length, length, furthest);
  evidence.set(views[0]);
}

/**
 * The share of what speaks for each cell in all that speaks, in place of what speaks for it.
 * @returns how firmly each is held there: `barely` where both speak alike, and up to so much more by `spoken`
 */
export function weigh(
  speaks: Float32Array,
  against: Float32Array,
  spoken: number,
  barely: number,
): Float32Array {
  const count = speaks.length;
  const { at, views, kernels } = laidOut(count, speaks, against, null);
  kernels.weigh(...at, count, spoken, barely);
  speaks.set(views[0]);
  return views[2].slice();
}

/** Parts what is more than a half from what is less, so many times as steep, softly; in place. */
export function steepen(values: Float32Array, times: number): void {
  const { at, views, kernels } = laidOut(values.length, values);
  kernels.steepen(at[0], values.length, times);
  values.set(views[0]);
}

/**
 * Cells are drawn to what lines through their features say, and held there as far as that is sure: both in place.
 * @param fixed not 0 where a cell stays as it is
 * @param drawn how firmly at most, and how firmly at least
 */
export function drawTo(
  { a, d }: ColourGuided,
  features: readonly Float32Array[],
  fixed: Float32Array,
  targets: Float32Array,
  held: Float32Array,
  [drawn, barely]: readonly [number, number],
): void {
  const count = targets.length;
  const lines = [...a, d].map(plane => plane.values);
  const { at, views, bytes, kernels } = laidOut(count, ...lines, ...features, fixed, targets, held);
  kernels.drawTo(at[0], bytes, ...at.slice(lines.length), count, drawn, barely);
  const [to, firmly] = views.slice(-2);
  targets.set(to);
  held.set(firmly);
}
