import { gridNodes, type Grid } from '../kernels/grid';
import type { Point } from '../steps/define';
import { apart } from './tolerance';

/** Where a table of colours is off: by probes of its cells, or by its nodes alone. */

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

/** How many probes a cell gets, by the nodes of the grid: a large cell hides more. */
export const PROBES_BY_SIZE: Record<number, number> = { 17: 8, 33: 4, 65: 2, 129: 2 };

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
export function findOff(
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
export function findBent(
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
