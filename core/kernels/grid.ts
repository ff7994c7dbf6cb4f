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
const SHARE = ONE - 1;

const placesBySize = new Map<number, Int32Array>();

/** Where each code falls between the nodes; the last one just before the last node, so that it has a cell. */
function places(size: number, most: 255 | 65535): Int32Array {
  const key = size * 2 + (most === 255 ? 1 : 0);
  let table = placesBySize.get(key);
  if (!table) {
    table = new Int32Array(most + 1);
    const last = (size - 1) * ONE - 1;
    for (let i = 0; i <= most; i++) {
      table[i] = Math.min(last, Math.round((i / most) ** SHAPE * (size - 1) * ONE));
    }
    placesBySize.set(key, table);
  }
  return table;
}

/** The first node of the cell that a 16-bit code falls into, along an axis. */
export const cellOf = (size: number, code: number): number => places(size, 65535)[code] >> BITS;

/**
 * The second and third nodes of the tetrahedron for each order of the three shares, as offsets. The order is a
 * number of three bits: red < green, green < blue, red < blue.
 */
function walks(size: number, channels: number): [Int32Array, Int32Array] {
  const b = channels;
  const g = size * b;
  const r = size * g;
  const first = new Int32Array(8);
  const second = new Int32Array(8);
  for (let order = 0; order < 8; order++) {
    const redLess = order & 1;
    const greenLess = order & 2;
    const redLessBlue = order & 4;
    const high = !redLess && !redLessBlue ? r : redLess && !greenLess ? g : b;
    const low = redLess && redLessBlue ? r : !redLess && greenLess ? g : b;
    first[order] = high;
    second[order] = r + g + b - low;
  }
  return [first, second];
}

/**
 * Reads the grid for a run of pixels. In whole numbers and without a branch: which tetrahedron a pixel is in
 * cannot be foreseen.
 * @param from first pixel
 * @param count pixels
 * @param out filled from 0: `channels` numbers a pixel
 */
export function readGrid(grid: Grid, codes: Codes, from: number, count: number, out: Float32Array): void {
  const { size, values, channels } = grid;
  const place = places(size, mostCode(codes));
  const [firsts, seconds] = walks(size, channels);
  const stepG = size * channels;
  const stepR = size * stepG;
  const all = stepR + stepG + channels;
  const unit = 1 / ONE;
  for (let i = 0, p = from * 3, o = 0; i < count; i++, p += 3) {
    const x = place[codes[p]];
    const y = place[codes[p + 1]];
    const z = place[codes[p + 2]];
    const fx = x & SHARE;
    const fy = y & SHARE;
    const fz = z & SHARE;
    const base =
      (Math.imul(x >> BITS, stepR) + Math.imul(y >> BITS, stepG) + Math.imul(z >> BITS, channels)) | 0;
    const xy = (fx - fy) | 0;
    const yz = (fy - fz) | 0;
    const xz = (fx - fz) | 0;
    const order = (xy >>> 31) | ((yz >>> 31) << 1) | ((xz >>> 31) << 2);
    // The largest and the smallest of the three, by their signs.
    const less = xy & (xy >> 31);
    const most = (fx - less) | 0;
    const least = (fy + less) | 0;
    const byZ = (most - fz) | 0;
    const high = (most - (byZ & (byZ >> 31))) | 0;
    const toZ = (fz - least) | 0;
    const low = (least + (toZ & (toZ >> 31))) | 0;
    const mid = (fx + fy + fz - high - low) | 0;
    const b = (base + firsts[order]) | 0;
    const c = (base + seconds[order]) | 0;
    const d = (base + all) | 0;
    const w0 = (ONE - high) * unit;
    const w1 = (high - mid) * unit;
    const w2 = (mid - low) * unit;
    const w3 = low * unit;
    out[o++] = w0 * values[base] + w1 * values[b] + w2 * values[c] + w3 * values[d];
    if (channels === 3) {
      out[o++] = w0 * values[base + 1] + w1 * values[b + 1] + w2 * values[c + 1] + w3 * values[d + 1];
      out[o++] = w0 * values[base + 2] + w1 * values[b + 2] + w2 * values[c + 2] + w3 * values[d + 2];
    }
  }
}
