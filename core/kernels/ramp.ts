import { DITHER, DITHER_MASK, ditherRow } from './dither';

/** A baked 1D table from a grey to a colour, read by linear interpolation, held at its ends. */
export interface Ramp {
  /** The grey of the first entry. */
  from: number;
  /** Entries a unit of grey. */
  density: number;
  /** Number of entries. */
  length: number;
  /** RGB of entry i at 3i. */
  values: Float32Array;
}

/** Reads the ramp for a run of greys: `out` gets three numbers a pixel. */
export function readRamp(ramp: Ramp, greys: Float32Array, count: number, out: Float32Array): void {
  const { from, density, values } = ramp;
  const last = ramp.length - 2;
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    const at = (greys[i] - from) * density;
    let j = at | 0;
    if (j < 0) j = 0;
    else if (j > last) j = last;
    let f = at - j;
    if (f < 0) f = 0;
    else if (f > 1) f = 1;
    const e = j * 3;
    out[o] = values[e] + (values[e + 3] - values[e]) * f;
    out[o + 1] = values[e + 1] + (values[e + 4] - values[e + 1]) * f;
    out[o + 2] = values[e + 2] + (values[e + 5] - values[e + 2]) * f;
  }
}

const screens = new WeakMap<Ramp, Int32Array>();

/** Levels are whole numbers with this many bits after the point. */
const BITS = 20;

/** The ramp's colours as 8-bit levels, clipped, ready to be dithered. */
function levels(ramp: Ramp): Int32Array {
  let table = screens.get(ramp);
  if (!table) {
    table = Int32Array.from(ramp.values, v => (v > 0 ? (v < 1 ? v : 1) : 0) * 255 * 2 ** BITS);
    screens.set(ramp, table);
  }
  return table;
}

const lifts = Int32Array.from(DITHER, v => v * 2 ** BITS);

/**
 * Reads the ramp for a run of greys straight into dithered 8-bit codes; see `write8`. Takes the nearest
 * entry: at 4096 entries and more that is within 0.04 of a code along a straight tone scale.
 */
export function writeRamp8(
  ramp: Ramp,
  greys: Float32Array,
  first: number,
  count: number,
  out: Uint8Array | Uint8ClampedArray,
  at: number,
  stride: 3 | 4,
  x: number,
  y: number,
): void {
  const { from, density } = ramp;
  const table = levels(ramp);
  const row = ditherRow(y);
  const last = ramp.length - 1;
  const half = 0.5 - from * density;
  for (let i = 0, o = at; i < count; i++, o += stride) {
    let j = (greys[first + i] * density + half) | 0;
    if (j < 0) j = 0;
    else if (j > last) j = last;
    const lift = lifts[(row + ((x + i) & DITHER_MASK)) | 0];
    const e = Math.imul(j, 3);
    out[o] = (table[e] + lift) >> BITS;
    out[o + 1] = (table[e + 1] + lift) >> BITS;
    out[o + 2] = (table[e + 2] + lift) >> BITS;
    if (stride === 4) out[o + 3] = 255;
  }
}
