import { compiled, copyCodes, inChunks } from './compiled';

/**
 * A baked 3D table over encoded RGB, read by tetrahedral interpolation. The nodes are not even: they lie
 * closer in the darks, where the sRGB curve bends most, at v = (i / (size − 1)) ^ (1 / SHAPE).
 */
export interface Grid {
  /** Nodes along each axis. */
  size: number;
  /** Numbers a node: 3 for a colour, 1 for a grey. */
  channels: 1 | 3;
  /** Node (r, g, b), channel k, at ((r · size + g) · size + b) · channels + k. */
  values: Float32Array;
}

/** Interleaved RGB codes of 16 or of 8 bits. */
export type Codes = Uint16Array | Uint8Array;

/** The code that stands for 1. */
export const mostCode = (codes: Codes): 255 | 65535 => (codes instanceof Uint8Array ? 255 : 65535);

const SHAPE = 0.7;

/** The encoded value of each node along an axis. */
export function gridNodes(size: number): Float64Array {
  return Float64Array.from({ length: size }, (_, i) => (i / (size - 1)) ** (1 / SHAPE));
}

/** Places between nodes are fixed-point numbers: nodes, and this many bits of a share of the way to the next. */
const BITS = 15;
const ONE = 1 << BITS;

/** Where a code falls between the nodes; the last one just before the last node, so that it has a cell. */
const placeOf = (size: number, code: number, most: number): number =>
  Math.min((size - 1) * ONE - 1, Math.round((code / most) ** SHAPE * (size - 1) * ONE));

const placesBySize = new Map<number, Int32Array>();

/** The same for every code. */
function places(size: number, most: 255 | 65535): Int32Array {
  const key = size * 2 + (most === 255 ? 1 : 0);
  let table = placesBySize.get(key);
  if (!table) {
    table = Int32Array.from({ length: most + 1 }, (_, code) => placeOf(size, code, most));
    placesBySize.set(key, table);
  }
  return table;
}

/** The first node of the cell that a 16-bit code falls into, along an axis. */
export const cellOf = (size: number, code: number): number => placeOf(size, code, 65535) >> BITS;

/** The same for every code of a depth. */
export const cellsOf = (size: number, most: 255 | 65535): Uint8Array =>
  Uint8Array.from(places(size, most), place => place >> BITS);

const walksBySize = new Map<number, Int32Array>();

/**
 * The second and third nodes of the tetrahedron for each order of the three shares, in bytes from the first: eight
 * of each. The order is a number of three bits: red < green, green < blue, red < blue.
 */
function walks(size: number, channels: number): Int32Array {
  const key = size * 4 + channels;
  let table = walksBySize.get(key);
  if (!table) {
    table = new Int32Array(16);
    const b = channels * Float32Array.BYTES_PER_ELEMENT;
    const g = size * b;
    const r = size * g;
    for (let order = 0; order < 8; order++) {
      const redLess = order & 1;
      const greenLess = order & 2;
      const redLessBlue = order & 4;
      const high = !redLess && !redLessBlue ? r : redLess && !greenLess ? g : b;
      const low = redLess && redLessBlue ? r : !redLess && greenLess ? g : b;
      table[order] = high;
      table[8 + order] = r + g + b - low;
    }
    walksBySize.set(key, table);
  }
  return table;
}

/**
 * Reads the grid for a run of pixels.
 * @param from first pixel
 * @param count pixels
 * @param out filled from 0: `channels` numbers a pixel
 * @returns whether any pixel fell into a hole, and got no number
 */
export function readGrid(grid: Grid, codes: Codes, from: number, count: number, out: Float32Array): boolean {
  const { kernels, colours, greys, addressesOf } = compiled();
  const { size, values, channels } = grid;
  const room = channels === 1 ? greys : colours;
  const read =
    channels === 1
      ? codes instanceof Uint8Array
        ? kernels.readGreys8
        : kernels.readGreys16
      : codes instanceof Uint8Array
        ? kernels.readColours8
        : kernels.readColours16;
  const [table, place, walk] = addressesOf(values, places(size, mostCode(codes)), walks(size, channels));
  let holes = false;
  inChunks(count, (first, n) => {
    const found = read(table, size, place, walk, copyCodes(codes, from + first, n), n, room.at);
    holes = Boolean(found) || holes;
    out.set(room.view.subarray(0, n * channels), first * channels);
  });
  return holes;
}
