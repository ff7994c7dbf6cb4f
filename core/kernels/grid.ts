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

const SHAPE = 0.7;

/** The encoded value of each node along an axis. */
export function gridNodes(size: number): Float64Array {
  return Float64Array.from({ length: size }, (_, i) => (i / (size - 1)) ** (1 / SHAPE));
}

const CODES = 65536;
const placesBySize = new Map<number, Float32Array>();

/** Where each 16-bit code falls between the nodes, in nodes. */
function places(size: number): Float32Array {
  let table = placesBySize.get(size);
  if (!table) {
    table = new Float32Array(CODES);
    for (let i = 0; i < CODES; i++) table[i] = (i / (CODES - 1)) ** SHAPE * (size - 1);
    placesBySize.set(size, table);
  }
  return table;
}

/**
 * Reads the grid for a run of pixels.
 * @param codes 16-bit RGB, interleaved
 * @param from first pixel
 * @param count pixels
 * @param out filled from 0: `channels` numbers a pixel
 */
export function readGrid(
  grid: Grid,
  codes: Uint16Array,
  from: number,
  count: number,
  out: Float32Array,
): void {
  const { size, values, channels } = grid;
  const place = places(size);
  const last = size - 2;
  const stepB = channels;
  const stepG = size * stepB;
  const stepR = size * stepG;
  for (let i = 0, p = from * 3, o = 0; i < count; i++, p += 3) {
    const x = place[codes[p]];
    const y = place[codes[p + 1]];
    const z = place[codes[p + 2]];
    let ix = x | 0;
    let iy = y | 0;
    let iz = z | 0;
    if (ix > last) ix = last;
    if (iy > last) iy = last;
    if (iz > last) iz = last;
    const fx = x - ix;
    const fy = y - iy;
    const fz = z - iz;
    const base = ix * stepR + iy * stepG + iz * stepB;
    let first: number;
    let second: number;
    let high: number;
    let mid: number;
    let low: number;
    if (fx >= fy) {
      if (fy >= fz) {
        first = stepR;
        second = stepR + stepG;
        high = fx;
        mid = fy;
        low = fz;
      } else if (fx >= fz) {
        first = stepR;
        second = stepR + stepB;
        high = fx;
        mid = fz;
        low = fy;
      } else {
        first = stepB;
        second = stepB + stepR;
        high = fz;
        mid = fx;
        low = fy;
      }
    } else if (fz >= fy) {
      first = stepB;
      second = stepB + stepG;
      high = fz;
      mid = fy;
      low = fx;
    } else if (fz >= fx) {
      first = stepG;
      second = stepG + stepB;
      high = fy;
      mid = fz;
      low = fx;
    } else {
      first = stepG;
      second = stepG + stepR;
      high = fy;
      mid = fx;
      low = fz;
    }
    const w0 = 1 - high;
    const w1 = high - mid;
    const w2 = mid - low;
    const b = base + first;
    const c = base + second;
    const d = base + stepR + stepG + stepB;
    out[o++] = w0 * values[base] + w1 * values[b] + w2 * values[c] + low * values[d];
    if (channels === 3) {
      out[o++] = w0 * values[base + 1] + w1 * values[b + 1] + w2 * values[c + 1] + low * values[d + 1];
      out[o++] = w0 * values[base + 2] + w1 * values[b + 2] + w2 * values[c + 2] + low * values[d + 2];
    }
  }
}
