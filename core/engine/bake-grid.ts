import { gridNodes, readGrid, type Grid } from '../kernels/grid';
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

/** Twice as many cells: every new node between two old ones, so that the table reads as before. */
function doubled({ size, channels, values }: Grid): Grid {
  const next = 2 * size - 1;
  const out = new Float32Array(next ** 3 * channels);
  let o = 0;
  for (let r = 0; r < next; r++) {
    const r0 = r >> 1;
    const r1 = (r + 1) >> 1;
    for (let g = 0; g < next; g++) {
      const low = (r0 * size + (g >> 1)) * size;
      const high = (r1 * size + ((g + 1) >> 1)) * size;
      for (let b = 0; b < next; b++) {
        const p = (low + (b >> 1)) * channels;
        const q = (high + ((b + 1) >> 1)) * channels;
        for (let k = 0; k < channels; k++) out[o++] = (values[p + k] + values[q + k]) / 2;
      }
    }
  }
  return { size: next, channels, values: out };
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

/** Every cell of a grid. */
function allCells(size: number): Int32Array {
  const cells = new Int32Array((size - 1) ** 3 * 3);
  let o = 0;
  for (let r = 0; r < size - 1; r++) {
    for (let g = 0; g < size - 1; g++) {
      for (let b = 0; b < size - 1; b++) {
        cells[o++] = r;
        cells[o++] = g;
        cells[o++] = b;
      }
    }
  }
  return cells;
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

/** Computes the new nodes of split cells exactly; returns their eight parts as the cells to look at next. */
function refine(grid: Grid, point: Point, split: readonly number[]): Int32Array {
  const { size, channels, values } = grid;
  const nodes = gridNodes(size);
  const known = new Uint8Array(size ** 3);
  const open = new Int32Array(split.length * 8);
  const c = new Float64Array(3);
  let o = 0;
  for (let i = 0; i < split.length; i += 3) {
    const r0 = 2 * split[i];
    const g0 = 2 * split[i + 1];
    const b0 = 2 * split[i + 2];
    for (let part = 0; part < 27; part++) {
      const r = (part / 9) | 0;
      const g = ((part / 3) | 0) % 3;
      const b = part % 3;
      if (r < 2 && g < 2 && b < 2) {
        open[o++] = r0 + r;
        open[o++] = g0 + g;
        open[o++] = b0 + b;
      }
      const node = ((r0 + r) * size + g0 + g) * size + b0 + b;
      // Nodes of the coarser grid are exact already.
      if (known[node] || !((r | g | b) & 1)) continue;
      known[node] = 1;
      c[0] = nodes[r0 + r];
      c[1] = nodes[g0 + g];
      c[2] = nodes[b0 + b];
      point(c);
      for (let k = 0; k < channels; k++) values[node * channels + k] = c[k];
    }
  }
  return open;
}

/** Makes a cell a hole: its first node, which every pixel in it reads, is no number. */
export function dig({ size, channels, values }: Grid, r: number, g: number, b: number): void {
  const node = ((r * size + g) * size + b) * channels;
  values.fill(NaN, node, node + channels);
}

/**
 * Bakes a function of a colour into a grid. Cells in which the table is off are split, their new nodes computed
 * exactly, and looked at again, so that the function is asked often only where it bends. Cells that are
 * still off at the finest are left as holes, where pixels are computed exactly.
 * @param draft coarse, judged by its nodes alone, without holes
 */
export function bakeGrid(point: Point, channels: 1 | 3, draft: boolean): Grid {
  const doublings = draft ? DRAFT_DOUBLINGS : DOUBLINGS;
  const c = new Float64Array(3);
  const size = draft ? DRAFT_COARSEST : COARSEST;
  let grid: Grid = { size, channels, values: new Float32Array(size ** 3 * channels) };
  const nodes = gridNodes(size);
  let o = 0;
  for (const r of nodes) {
    for (const g of nodes) {
      for (const b of nodes) {
        c[0] = r;
        c[1] = g;
        c[2] = b;
        point(c);
        for (let k = 0; k < channels; k++) grid.values[o++] = c[k];
      }
    }
  }
  let open = allCells(size);
  for (let level = 0; level < doublings && open.length; level++) {
    const split: number[] = [];
    const add = (r: number, g: number, b: number) => split.push(r, g, b);
    if (draft) findBent(grid, DRAFT_SPLIT, add);
    else findOff(grid, point, open, PROBES_BY_SIZE[grid.size], SPLIT * TOLERANCE, add);
    if (!split.length) return grid;
    grid = doubled(grid);
    open = refine(grid, point, split);
  }
  if (!draft) {
    const off: number[] = [];
    findOff(grid, point, open, PROBES_BY_SIZE[grid.size], TOLERANCE, (r, g, b) => off.push(r, g, b));
    for (let i = 0; i < off.length; i += 3) dig(grid, off[i], off[i + 1], off[i + 2]);
  }
  return grid;
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
