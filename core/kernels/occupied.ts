import { compiled, copyCodes, inChunks } from './compiled';
import { cellsOf, type Codes } from './grid';

/**
 * Which colours a picture has, as the cells of the finest table over colours that its codes fall into: one byte a cell,
 * cell (r, g, b) at (r · 128 + g) · 128 + b. A photograph has a few of a hundred of all colours: a table need be fine
 * there alone.
 */
export type Occupied = Uint8Array;

/** Cells along an axis of the finest table. */
export const FINEST_CELLS = 128;
const CELLS = FINEST_CELLS ** 3;

/** @param memory a room of `CELLS` bytes, in memory that threads share; own memory where it is left out */
export const noneOccupied = (memory: ArrayBufferLike = new ArrayBuffer(CELLS)): Occupied =>
  new Uint8Array(memory, 0, CELLS);
export const OCCUPIED_BYTES = CELLS;

const cellTables = new Map<number, Uint8Array>();

/** The finest cell of each code along an axis. */
function cellsOfCodes(most: 255 | 65535): Uint8Array {
  let table = cellTables.get(most);
  if (!table) {
    table = cellsOf(FINEST_CELLS + 1, most);
    cellTables.set(most, table);
  }
  return table;
}

/** Marks the cells of runs of RGB codes. Several threads may mark in the same memory. */
export function markOccupied(runs: readonly Codes[], cells: Occupied): void {
  if (!runs.length) return;
  const { kernels, workspace } = compiled();
  const { buffer, at, tables } = workspace(CELLS, cellsOfCodes(255), cellsOfCodes(65535));
  const here = new Uint8Array(buffer, at, CELLS).fill(0);
  for (const codes of runs) {
    const [mark, cell] =
      codes instanceof Uint8Array ? [kernels.mark8, tables[0]] : [kernels.mark16, tables[1]];
    inChunks(codes.length / 3, (from, count) => mark(copyCodes(codes, from, count), count, cell, at));
  }
  const fours = new Uint32Array(buffer, at, CELLS / 4);
  for (let i = 0; i < fours.length; i++) {
    if (fours[i] === 0) continue;
    for (let k = i * 4; k < i * 4 + 4; k++) if (here[k]) cells[k] = 1;
  }
}

/** Whether all cells that are marked in one are marked in another. */
export function covers(all: Occupied, some: Occupied): boolean {
  if (all === some) return true;
  const wide = new Uint32Array(all.buffer, all.byteOffset, CELLS / 4);
  const narrow = new Uint32Array(some.buffer, some.byteOffset, CELLS / 4);
  for (let i = 0; i < wide.length; i++) if ((narrow[i] & ~wide[i]) !== 0) return false;
  return true;
}

/** The cells that are marked in either. */
export function either(a: Occupied, b: Occupied): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(a);
  const wide = new Uint32Array(out.buffer, out.byteOffset, CELLS / 4);
  const more = new Uint32Array(b.buffer, b.byteOffset, CELLS / 4);
  for (let i = 0; i < wide.length; i++) wide[i] |= more[i];
  return out;
}

/** The cells that are marked in the first, and not in the second. */
export function without(cells: Occupied, others: Occupied): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(cells);
  const wide = new Uint32Array(out.buffer, out.byteOffset, CELLS / 4);
  const less = new Uint32Array(others.buffer, others.byteOffset, CELLS / 4);
  for (let i = 0; i < wide.length; i++) wide[i] &= ~less[i];
  return out;
}

/** Calls back with each marked cell of a cube of `side` cells, in order. */
function eachMarked(
  cells: Uint8Array,
  side: number,
  onCell: (r: number, g: number, b: number) => void,
): void {
  const shift = Math.log2(side);
  const fours = new Uint32Array(cells.buffer, cells.byteOffset, cells.length / 4);
  for (let i = 0; i < fours.length; i++) {
    if (fours[i] === 0) continue;
    for (let at = i * 4; at < i * 4 + 4; at++) {
      if (cells[at]) onCell(at >> (2 * shift), (at >> shift) & (side - 1), at & (side - 1));
    }
  }
}

/** The marked cells of a cube of `side` cells: three numbers each. */
export function listMarked(cells: Uint8Array, side: number): Int32Array {
  let count = 0;
  for (let i = 0; i < cells.length; i++) count += cells[i];
  const out = new Int32Array(count * 3);
  let o = 0;
  eachMarked(cells, side, (r, g, b) => {
    out[o++] = r;
    out[o++] = g;
    out[o++] = b;
  });
  return out;
}

/** The marked cells of a cube, and those that follow them along any of the axes. */
export function withNext(cells: Uint8Array, side: number): Uint8Array {
  const out = cells.slice();
  const last = side - 1;
  eachMarked(cells, side, (r, g, b) => {
    const [r1, g1, b1] = [Math.min(last, r + 1), Math.min(last, g + 1), Math.min(last, b + 1)];
    for (let i = r; i <= r1; i++) {
      for (let j = g; j <= g1; j++) {
        const at = (i * side + j) * side;
        out[at + b] = 1;
        out[at + b1] = 1;
      }
    }
  });
  return out;
}

/** The cells of a cube of half the side that touch a marked cell, at a corner at least. */
export function touchingAtHalf(cells: Uint8Array, side: number): Uint8Array {
  const half = side / 2;
  const out = new Uint8Array(half ** 3);
  const last = half - 1;
  eachMarked(cells, side, (r, g, b) => {
    const r1 = Math.min(last, (r + 1) >> 1);
    const g1 = Math.min(last, (g + 1) >> 1);
    const b1 = Math.min(last, (b + 1) >> 1);
    for (let i = Math.max(0, (r - 1) >> 1); i <= r1; i++) {
      for (let j = Math.max(0, (g - 1) >> 1); j <= g1; j++) {
        for (let k = Math.max(0, (b - 1) >> 1); k <= b1; k++) out[(i * half + j) * half + k] = 1;
      }
    }
  });
  return out;
}
