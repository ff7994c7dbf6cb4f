import { forget } from '../kernels/compiled';
import { cellOf, type Grid } from '../kernels/grid';
import type { Ramp } from '../kernels/ramp';
import type { Point } from '../steps/define';
import { bakeGrid, checkCodes, dig, offChecks } from './bake-grid';
import { bakeRamp, DENSITIES, DRAFT_DENSITY, offEntries } from './bake-ramp';

/** Baked tables: exact functions of a colour written into tables, fine where the function bends. */

/**
 * How a run of colours is computed: by a 3D table, a 1D table over greys, or exactly. A table with holes gives no
 * number where it would be off; there pixels are computed exactly.
 */
export type Table =
  | { kind: 'grid'; grid: Grid; holes: boolean }
  | { kind: 'ramp'; ramp: Ramp; holes: boolean }
  | { kind: 'exact' };

export interface Baked {
  table: Table;
  /** Within the tolerance. */
  fine: boolean;
}

/** More checks off than this: the function is not one for a table. */
const MOST_OFF = 15;

/** A table over colours; a draft is coarse, and not checked. */
export function bakeColours(point: Point, channels: 1 | 3, draft: boolean): Baked {
  const grid = bakeGrid(point, channels, draft);
  if (draft) return { table: { kind: 'grid', grid, holes: false }, fine: false };
  const off = offChecks(grid, point);
  if (off.length > MOST_OFF) return { table: { kind: 'exact' }, fine: true };
  const { size } = grid;
  for (const i of off) {
    const [r, g, b] = [0, 1, 2].map(k => cellOf(size, checkCodes[i * 3 + k]));
    dig(grid, r, g, b);
  }
  forget(grid.values);
  return { table: { kind: 'grid', grid, holes: grid.values.some(Number.isNaN) }, fine: true };
}

/** Holes in a ramp beyond this share of it: the function is not one for a table. */
const MOST_HOLES = 0.02;

/** A table over greys: of at least 4096 entries a unit, unless it is a draft. */
export function bakeGreys(point: Point, from: number, to: number, draft: boolean): Baked {
  if (draft) {
    const ramp = bakeRamp(point, from, to, DRAFT_DENSITY);
    return { table: { kind: 'ramp', ramp, holes: false }, fine: false };
  }
  for (const density of DENSITIES) {
    const ramp = bakeRamp(point, from, to, density);
    const off = offEntries(ramp, point);
    if (off.length === 0) return { table: { kind: 'ramp', ramp, holes: false }, fine: true };
    if (density === DENSITIES.at(-1) && off.length <= ramp.length * MOST_HOLES) {
      for (const i of off) ramp.values.fill(NaN, i * 3, i * 3 + 3);
      forget(ramp.values);
      return { table: { kind: 'ramp', ramp, holes: true }, fine: true };
    }
  }
  return { table: { kind: 'exact' }, fine: true };
}
