import { forget } from '../kernels/compiled';
import { cellOf, type Grid } from '../kernels/grid';
import { either, without, type Occupied } from '../kernels/occupied';
import type { Ramp } from '../kernels/ramp';
import type { Laid, Point } from '../steps/define';
import { bakeGrid, checkCodes, draftGrid, growGrid, offChecks } from './bake-grid';
import { dig, type Reach } from './grid-nodes';
import { bakeRamp, DENSITIES, DRAFT_DENSITY, offEntries } from './bake-ramp';

/** Baked tables: exact functions of a colour written into tables, fine where the function bends. */

/**
 * How a run of colours is computed: by a 3D table, a 1D table over greys, a compiled kernel, exactly, or once for all that are
 * nearly alike. A table with holes gives no number where it would be off; there pixels are computed exactly.
 */
export type Table =
  | {
      kind: 'grid';
      grid: Grid;
      holes: boolean;
      /** The greys that it leaves, widened; where it leaves greys. */
      span?: [from: number, to: number];
    }
  | { kind: 'ramp'; ramp: Ramp; holes: boolean }
  | { kind: 'compiled'; run: Laid }
  | { kind: 'exact' }
  | { kind: 'alike' };

export interface Baked {
  table: Table;
  /** Within the tolerance. */
  fine: boolean;
  /** The colours that it holds, where those are not all. */
  occupied?: Occupied;
}

/** More checks off than this: the function is not one for a table. */
const MOST_OFF = 15;

/** Steps of grey to which the greys that a table leaves are widened, so that what follows is not baked anew for every small change. */
const SPAN_STEP = 0.5;

/** The greys that a grid leaves, at least 0..1, widened to whole steps. */
function spanOf({ least, most }: Reach, [from, to] = [0, 1]): [number, number] {
  return [
    Math.floor(Math.min(from, least) / SPAN_STEP) * SPAN_STEP,
    Math.ceil(Math.max(to, most) / SPAN_STEP) * SPAN_STEP,
  ];
}

/**
 * A table over colours; a draft is coarse, and not checked.
 * @param occupied the colours that are to be read; null where any may be
 */
export function bakeColours(
  point: Point,
  channels: 1 | 3,
  draft: boolean,
  occupied: Occupied | null = null,
): Baked {
  const span = (reach: Reach) => (channels === 1 ? spanOf(reach) : undefined);
  if (draft) {
    const { grid, reach } = draftGrid(point, channels);
    return { table: { kind: 'grid', grid, holes: false, span: span(reach) }, fine: false };
  }
  const { grid, holes, reach } = bakeGrid(point, channels, occupied);
  const off = offChecks(grid, point);
  if (off.length > MOST_OFF) return { table: { kind: 'exact' }, fine: true };
  const { size } = grid;
  for (const i of off) {
    const [r, g, b] = [0, 1, 2].map(k => cellOf(size, checkCodes[i * 3 + k]));
    dig(grid, r, g, b);
  }
  forget(grid.values);
  const table = { kind: 'grid', grid, holes: holes || off.length > 0, span: span(reach) } as const;
  return { table, fine: true, occupied: occupied ?? undefined };
}

/** The same table with more colours in it: what it held it holds as it did. */
export function growColours(known: Baked, point: Point, wanted: Occupied): Baked {
  const { table, occupied } = known;
  if (table.kind !== 'grid' || !occupied) return known;
  // What others may be reading is not changed under them.
  const isShared = !(table.grid.values.buffer instanceof ArrayBuffer);
  const grid = isShared ? { ...table.grid, values: table.grid.values.slice() } : table.grid;
  const more = growGrid(grid, point, without(wanted, occupied));
  forget(grid.values);
  const span = table.span && spanOf(more.reach, table.span);
  const holes = table.holes || more.holes;
  return { ...known, occupied: either(occupied, wanted), table: { ...table, grid, holes, span } };
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
