import { cellOf, gridNodes, readGrid, type Grid } from '../kernels/grid';
import { either, listMarked, touchingAtHalf, withNext, type Occupied } from '../kernels/occupied';
import type { Point } from '../steps/define';
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

/** Where in a cell, in shares of its sides, a table is probed: the first ones first. */
const PROBES = [
  [0.5, 0.5, 0.5],
  [0.25, 0.5, 0.8],
  [0.75, 0.35, 0.2],
  [0.5, 0.25, 0.65],
  [0.35, 0.8, 0.5],
  [0.8, 0.65, 0.75],
  [0.2, 0.2, 0.35],
  [0.65, 0.75, 0.25],
] as const;

/** In a draft a cell is split where its table may be off by more than this; most of what bends so is off by less than half. */
const DRAFT_SPLIT = 4 / 255;

/** What stands at nodes that a table for some colours does not hold; a hole is no number. */
export const NOT_HELD = Infinity;

/** How many probes a cell gets, by the nodes of the grid: a large cell hides more. */
const PROBES_BY_SIZE: Record<number, number> = { 17: 8, 33: 4, 65: 2, 129: 2 };

/** The nodes of the tetrahedron that a probe lies in, as steps along the axes, and their weights. */
const WALKS = PROBES.map(probe => {
  const order = [0, 1, 2].sort((i, j) => probe[j] - probe[i]);
  const corners = [[0, 0, 0]];
  for (const axis of order) {
    const next = corners.at(-1)!.slice();
    next[axis] = 1;
    corners.push(next);
  }
  const falling = [1, ...order.map(axis => probe[axis]), 0];
  return { corners, weights: Float64Array.from([0, 1, 2, 3], i => falling[i] - falling[i + 1]) };
});

/** How far a table is off at a probe of a cell, counting only what can be seen. */
function offAt(
  grid: Grid,
  offsets: Int32Array,
  weights: Float64Array,
  base: number,
  exact: Float64Array,
): number {
  const { channels, values } = grid;
  let worst = 0;
  for (let k = 0; k < channels; k++) {
    let v = 0;
    for (let i = 0; i < 4; i++) v += weights[i] * values[base + offsets[i] + k];
    worst = Math.max(worst, apart(exact[k], v));
  }
  return worst;
}

/** Values of positions between nodes, by half nodes and by probes: shares of a cell are in nodes, which are not even. */
function placesOf(size: number): Float64Array[] {
  const cells = size - 1;
  const nodes = gridNodes(size);
  // The nodes lie at (i / cells) to some power.
  const power = Math.log(nodes[1]) / Math.log(1 / cells);
  const shares = [...new Set(PROBES.flat())];
  const places: Float64Array[] = [];
  for (const share of shares) {
    places[share * 100] = Float64Array.from({ length: cells }, (_, i) => ((i + share) / cells) ** power);
  }
  return places;
}

/** Calls back with every open cell (first node along each axis) in which the table is off by more than `most` at one of the first probes. */
function findOff(
  grid: Grid,
  point: Point,
  open: Int32Array,
  probes: number,
  most: number,
  onOff: (r: number, g: number, b: number) => void,
): void {
  const { size, channels } = grid;
  const places = placesOf(size);
  const walks = WALKS.map(({ corners, weights }) => ({
    weights,
    offsets: Int32Array.from(corners, ([r, g, b]) => ((r * size + g) * size + b) * channels),
  }));
  const c = new Float64Array(3);
  for (let i = 0; i < open.length; i += 3) {
    const r = open[i];
    const g = open[i + 1];
    const b = open[i + 2];
    const base = ((r * size + g) * size + b) * channels;
    for (let p = 0; p < probes; p++) {
      const probe = PROBES[p];
      c[0] = places[probe[0] * 100][r];
      c[1] = places[probe[1] * 100][g];
      c[2] = places[probe[2] * 100][b];
      point(c);
      if (offAt(grid, walks[p].offsets, walks[p].weights, base, c) > most) {
        onOff(r, g, b);
        break;
      }
    }
  }
}

/**
 * The same by the nodes alone, without asking the function: where they bend, straight lines between them are off. By
 * Taylor's formula a second difference is off by an eighth of it in the middle between two nodes, and a mixed one,
 * across a cell's diagonal, by a quarter.
 */
function findBent(
  { size, channels, values }: Grid,
  most: number,
  onBent: (r: number, g: number, b: number) => void,
): void {
  const steps = [size * size * channels, size * channels, channels];
  const last = size - 2;
  const cell = [0, 0, 0];
  const isBent = (at: number): boolean => {
    for (let axis = 0; axis < 3; axis++) {
      const step = steps[axis];
      const other = steps[(axis + 1) % 3];
      const mixed = values[at + step + other] - values[at + step] - values[at + other] + values[at];
      if (Math.abs(mixed) > 4 * most) return true;
      // About either end of the cell, but for the ends of the table.
      for (let end = cell[axis] > 0 ? 0 : 1; end <= (cell[axis] < last ? 1 : 0); end++) {
        const middle = at + end * step;
        if (Math.abs(values[middle - step] - 2 * values[middle] + values[middle + step]) > 8 * most)
          return true;
      }
    }
    return false;
  };
  for (let r = 0; r <= last; r++) {
    for (let g = 0; g <= last; g++) {
      for (let b = 0; b <= last; b++) {
        cell[0] = r;
        cell[1] = g;
        cell[2] = b;
        const at = r * steps[0] + g * steps[1] + b * steps[2];
        for (let k = 0; k < channels; k++) {
          if (!isBent(at + k)) continue;
          onBent(r, g, b);
          break;
        }
      }
    }
  }
}

/** The least and the most that stands at the nodes of a table; those between others lie between. */
export interface Reach {
  least: number;
  most: number;
}
const noReach = (): Reach => ({ least: Infinity, most: -Infinity });

function widen(reach: Reach, c: Float64Array, channels: number): void {
  for (let k = 0; k < channels; k++) {
    if (c[k] < reach.least) reach.least = c[k];
    if (c[k] > reach.most) reach.most = c[k];
  }
}

/** The nodes of marked cells of a cube: one byte a node. */
function nodesOf(cells: Uint8Array, side: number): Uint8Array {
  const size = side + 1;
  const out = new Uint8Array(size ** 3);
  const marked = listMarked(cells, side);
  for (let i = 0; i < marked.length; i += 3) {
    const at = (marked[i] * size + marked[i + 1]) * size + marked[i + 2];
    for (const corner of [at, at + size, at + size * size, at + size * size + size]) {
      out[corner] = 1;
      out[corner + 1] = 1;
    }
  }
  return out;
}

/** Whether a node of twice as many cells lies in a split one, or at its border; even coordinates are nodes of old. */
function isSplitAt(split: Uint8Array, side: number, r: number, g: number, b: number): boolean {
  const last = side - 1;
  const r1 = Math.min(last, r >> 1);
  const g1 = Math.min(last, g >> 1);
  const b1 = Math.min(last, b >> 1);
  for (let i = Math.max(0, (r - 1) >> 1); i <= r1; i++) {
    for (let j = Math.max(0, (g - 1) >> 1); j <= g1; j++) {
      for (let k = Math.max(0, (b - 1) >> 1); k <= b1; k++) if (split[(i * side + j) * side + k]) return true;
    }
  }
  return false;
}

/**
 * Twice as many cells: nodes in split cells computed exactly, every other new one between two old ones, so that the table
 * reads there as before.
 * @param wanted one byte a node; null where all are
 */
function refined(grid: Grid, point: Point, split: Uint8Array, wanted: Uint8Array | null, reach: Reach): Grid {
  const { size, channels, values } = grid;
  const side = size - 1;
  const next = 2 * size - 1;
  const nodes = gridNodes(next);
  const out = new Float32Array(next ** 3 * channels);
  if (wanted) out.fill(NOT_HELD);
  const c = new Float64Array(3);
  let node = 0;
  for (let r = 0; r < next; r++) {
    for (let g = 0; g < next; g++) {
      const low = ((r >> 1) * size + (g >> 1)) * size;
      const high = (((r + 1) >> 1) * size + ((g + 1) >> 1)) * size;
      for (let b = 0; b < next; b++, node++) {
        if (wanted && !wanted[node]) continue;
        const to = node * channels;
        if (((r | g | b) & 1) !== 0 && isSplitAt(split, side, r, g, b)) {
          c[0] = nodes[r];
          c[1] = nodes[g];
          c[2] = nodes[b];
          point(c);
          for (let k = 0; k < channels; k++) out[to + k] = c[k];
          widen(reach, c, channels);
        } else {
          const p = (low + (b >> 1)) * channels;
          const q = (high + ((b + 1) >> 1)) * channels;
          for (let k = 0; k < channels; k++) out[to + k] = (values[p + k] + values[q + k]) / 2;
        }
      }
    }
  }
  return { size: next, channels, values: out };
}

/** The eight parts of split cells, those that are wanted. */
function partsOf(split: Uint8Array, side: number, wanted: Uint8Array | null): Int32Array {
  const cells = listMarked(split, side);
  const twice = 2 * side;
  const parts = new Int32Array(cells.length * 8);
  let o = 0;
  for (let i = 0; i < cells.length; i += 3) {
    for (let part = 0; part < 8; part++) {
      const r = 2 * cells[i] + (part >> 2);
      const g = 2 * cells[i + 1] + ((part >> 1) & 1);
      const b = 2 * cells[i + 2] + (part & 1);
      if (wanted && !wanted[(r * twice + g) * twice + b]) continue;
      parts[o++] = r;
      parts[o++] = g;
      parts[o++] = b;
    }
  }
  return parts.subarray(0, o);
}

/** Makes a cell a hole: its first node, which every pixel in it reads, is no number. */
export function dig({ size, channels, values }: Grid, r: number, g: number, b: number): void {
  const node = ((r * size + g) * size + b) * channels;
  values.fill(NaN, node, node + channels);
}

/** A grid at its coarsest: the wanted nodes computed exactly. */
function coarsest(
  point: Point,
  size: number,
  channels: 1 | 3,
  wanted: Uint8Array | null,
  reach: Reach,
): Grid {
  const grid: Grid = { size, channels, values: new Float32Array(size ** 3 * channels) };
  const nodes = gridNodes(size);
  const c = new Float64Array(3);
  let node = 0;
  for (const r of nodes) {
    for (const g of nodes) {
      for (const b of nodes) {
        const o = node++ * channels;
        if (wanted && !wanted[node - 1]) {
          grid.values.fill(NOT_HELD, o, o + channels);
          continue;
        }
        c[0] = r;
        c[1] = g;
        c[2] = b;
        point(c);
        for (let k = 0; k < channels; k++) grid.values[o + k] = c[k];
        widen(reach, c, channels);
      }
    }
  }
  return grid;
}

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
