import { gridNodes, type Grid } from '../kernels/grid';
import { listMarked } from '../kernels/occupied';
import type { Point } from '../steps/define';

/** The nodes of a table of colours: computed, and doubled where cells are split. */

/** What stands at nodes that a table for some colours does not hold; a hole is no number. */
export const NOT_HELD = Infinity;

/** The least and the most that stands at the nodes of a table; those between others lie between. */
export interface Reach {
  least: number;
  most: number;
}
export const noReach = (): Reach => ({ least: Infinity, most: -Infinity });

function widen(reach: Reach, c: Float64Array, channels: number): void {
  for (let k = 0; k < channels; k++) {
    if (c[k] < reach.least) reach.least = c[k];
    if (c[k] > reach.most) reach.most = c[k];
  }
}

/** The nodes of marked cells of a cube: one byte a node. */
export function nodesOf(cells: Uint8Array, side: number): Uint8Array {
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
export function refined(
  grid: Grid,
  point: Point,
  split: Uint8Array,
  wanted: Uint8Array | null,
  reach: Reach,
): Grid {
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
export function partsOf(split: Uint8Array, side: number, wanted: Uint8Array | null): Int32Array {
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
export function coarsest(
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
