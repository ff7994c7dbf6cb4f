import { readRamp, type Ramp } from '../kernels/ramp';
import type { Point } from '../steps/define';
import { apart, TOLERANCE } from './tolerance';

/** Exact functions of a grey written into 1D tables. */

/** A ramp never holds more than this many entries, however far the greys reach beyond 0..1. */
const MOST_ENTRIES = 1 << 17;
export const DENSITIES = [4096, 32768];
export const DRAFT_DENSITY = 1024;

export function bakeRamp(point: Point, from: number, to: number, density: number): Ramp {
  const length = Math.min(MOST_ENTRIES, Math.ceil((to - from) * density) + 2);
  const fits = (length - 1) / (to - from);
  const values = new Float32Array(length * 3);
  const c = new Float64Array(3);
  for (let i = 0; i < length; i++) {
    c.fill(from + i / fits);
    point(c);
    values.set(c, i * 3);
  }
  return { from, density: fits, length, values };
}

/** The entries after which a ramp is off, halfway to the next. */
export function offEntries(ramp: Ramp, point: Point): number[] {
  const grey = new Float32Array(1);
  const read = new Float32Array(3);
  const c = new Float64Array(3);
  const off: number[] = [];
  for (let i = 0; i < ramp.length - 1; i++) {
    grey[0] = ramp.from + (i + 0.5) / ramp.density;
    readRamp(ramp, grey, 1, read);
    c.fill(grey[0]);
    point(c);
    for (let k = 0; k < 3; k++) {
      if (apart(read[k], c[k]) > TOLERANCE) {
        off.push(i);
        break;
      }
    }
  }
  return off;
}
