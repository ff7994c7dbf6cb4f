import { cellOf, readGrid, type Grid } from '../kernels/grid';
import { either, listMarked, touchingAtHalf, withNext, type Occupied } from '../kernels/occupied';
import type { Point } from '../steps/define';
import { coarsest, dig, nodesOf, noReach, NOT_HELD, partsOf, refined, type Reach } from './grid-nodes';
import { findBent, findOff, PROBES_BY_SIZE } from './grid-probes';
import { apart, TOLERANCE } from './tolerance';

/** Exact functions of a colour written into 3D tables, fine where the function bends. */

/** A cell is split where its table is off by more than this share of the tolerance at a probe. */
const SPLIT = 0.85;

/** Nodes along an axis of the coarsest grid, and how often it may be doubled: to 129 nodes, or 29 for a draft. */
const COARSEST = 17;
const DOUBLINGS = 3;
const DRAFT_COARSEST = 15;
const DRAFT_DOUBLINGS = 1;

/** Colours that a baked grid is checked on: a low-discrepancy set over the cube, and one over the darks. */
const CHECKS = 768;
export const checkCodes = new Uint16Array(CHECKS * 3);
for (let i = 0; i < CHECKS; i++) {
  const dark = i % 3 === 0 ? 0.12 : 1;
  // Roberts' additive recurrence, from the plastic number of three dimensions.
  const at = [0.8191725134, 0.6710436067, 0.5497004779].map(a => (0.5 + (i + 1) * a) % 1);
  for (let k = 0; k < 3; k++) checkCodes[i * 3 + k] = Math.round(at[k] * dark * 65535);
}

/** In a draft a cell is split where its table may be off by more than this; most of what bends so is off by less than half. */
const DRAFT_SPLIT = 4 / 255;

/** A coarse grid, judged by its nodes alone, without holes. */
export function draftGrid(point: Point, channels: 1 | 3): { grid: Grid; reach: Reach } {
  const reach = noReach();
  let grid = coarsest(point, DRAFT_COARSEST, channels, null, reach);
  for (let level = 0; level < DRAFT_DOUBLINGS; level++) {
    const side = grid.size - 1;
    const split = new Uint8Array(side ** 3);
    let isBent = false;
    findBent(grid, DRAFT_SPLIT, (r, g, b) => {
      split[(r * side + g) * side + b] = 1;
      isBent = true;
    });
    if (!isBent) break;
    grid = refined(grid, point, split, null, reach);
  }
  return { grid, reach };
}

/** The cells of the check in a cube of a side, which is made once. */
const checkCells = (() => {
  const known = new Map<number, Uint8Array>();
  return (side: number): Uint8Array => {
    const cells = known.get(side) ?? new Uint8Array(side ** 3);
    if (known.has(side)) return cells;
    for (let i = 0; i < CHECKS * 3; i += 3) {
      const [r, g, b] = [0, 1, 2].map(k => cellOf(side + 1, checkCodes[i + k]));
      cells[(r * side + g) * side + b] = 1;
    }
    known.set(side, cells);
    return cells;
  };
})();
/** Cells along an axis, by doublings from the coarsest. */
const sideAt = (level: number) => (COARSEST - 1) * 2 ** level;

/** The cells whose nodes must hold, by doublings from the coarsest; null where all must. */
function wantedCells(occupied: Occupied | null, checked: boolean): (Uint8Array | null)[] {
  if (!occupied) return Array.from({ length: DOUBLINGS + 1 }, () => null);
  // A cell that is off takes the node away that it begins at, from those before it as well.
  const cells = checked ? either(occupied, checkCells(sideAt(DOUBLINGS))) : occupied;
  const wanted: Uint8Array[] = [withNext(cells, sideAt(DOUBLINGS))];
  // What a cell reads depends on whether those about it were split.
  for (let level = DOUBLINGS; level > 0; level--) {
    wanted.unshift(touchingAtHalf(wanted[0], sideAt(level)));
  }
  return wanted;
}

interface Made {
  grid: Grid;
  /** Among the colours that are to be read. */
  holes: boolean;
  reach: Reach;
}

/**
 * Bakes a function of a colour into a grid. Cells in which the table is off are split, their new nodes computed
 * exactly, and looked at again, so that the function is asked often only where it bends. It is made finer as long as any
 * cell of the check is split; cells that are still off at the finest are left as holes, where pixels are computed exactly.
 * @param occupied the colours that are to be read, where not all are: the table holds the same numbers there as that for all,
 *   and none elsewhere
 */
export function bakeGrid(point: Point, channels: 1 | 3, occupied: Occupied | null): Made {
  return baked(point, channels, wantedCells(occupied, true), null);
}

/**
 * Takes more colours into a grid that was baked for some, in place: it then holds what one baked for all of them would.
 * @returns of what was taken in
 */
export function growGrid(grid: Grid, point: Point, occupied: Occupied): Omit<Made, 'grid'> {
  const { grid: more, ...made } = baked(point, grid.channels, wantedCells(occupied, false), grid.size);
  const { values } = grid;
  // A hole of either is one of both: at their border one holds nodes whose cells the other has looked at.
  for (let i = 0; i < values.length; i++) {
    const v = more.values[i];
    if (v !== NOT_HELD && (values[i] === NOT_HELD || Number.isNaN(v))) values[i] = v;
  }
  return made;
}

/** @param size of the grid, where it is known; else the cells of the check decide */
function baked(
  point: Point,
  channels: 1 | 3,
  wanted: readonly (Uint8Array | null)[],
  size: number | null,
): Made {
  const nodesAt = (level: number) => {
    const cells = wanted[level];
    return cells && nodesOf(cells, sideAt(level));
  };
  const reach = noReach();
  let grid = coarsest(point, COARSEST, channels, nodesAt(0), reach);
  let open = listMarked(wanted[0] ?? new Uint8Array((COARSEST - 1) ** 3).fill(1), COARSEST - 1);
  for (let level = 0; level < DOUBLINGS && grid.size !== size; level++) {
    const side = grid.size - 1;
    const split = new Uint8Array(side ** 3);
    let goesOn = size !== null;
    findOff(grid, point, open, PROBES_BY_SIZE[grid.size], SPLIT * TOLERANCE, (r, g, b) => {
      const cell = (r * side + g) * side + b;
      split[cell] = 1;
      goesOn ||= checkCells(side)[cell] === 1;
    });
    if (!goesOn) break;
    open = partsOf(split, side, wanted[level + 1]);
    grid = refined(grid, point, split, nodesAt(level + 1), reach);
  }
  const off: number[] = [];
  findOff(grid, point, open, PROBES_BY_SIZE[grid.size], TOLERANCE, (r, g, b) => off.push(r, g, b));
  for (let i = 0; i < off.length; i += 3) dig(grid, off[i], off[i + 1], off[i + 2]);
  return { grid, holes: off.length > 0, reach };
}

/** Colours of the check that a grid is off at, as their places among the checks; holes count as right. */
export function offChecks(grid: Grid, point: Point): number[] {
  const read = new Float32Array(CHECKS * grid.channels);
  readGrid(grid, checkCodes, 0, CHECKS, read);
  const c = new Float64Array(3);
  const off: number[] = [];
  for (let i = 0; i < CHECKS; i++) {
    for (let k = 0; k < 3; k++) c[k] = checkCodes[i * 3 + k] / 65535;
    point(c);
    for (let k = 0; k < grid.channels; k++) {
      if (apart(read[i * grid.channels + k], c[k]) > TOLERANCE) {
        off.push(i);
        break;
      }
    }
  }
  return off;
}
