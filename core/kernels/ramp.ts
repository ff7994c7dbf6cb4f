import { compiled, inChunks } from './compiled';
import { DITHER_BITS, ditherRow, WHOLE_DITHER } from './dither';

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
  const { kernels, greys: room, colours, addressesOf } = compiled();
  const { from, density, values, length } = ramp;
  const [table] = addressesOf(values);
  inChunks(count, (first, n) => {
    room.view.set(greys.subarray(first, first + n));
    kernels.readRamp(table, length - 2, from, density, room.at, n, colours.at);
    out.set(colours.view.subarray(0, n * 3), first * 3);
  });
}

/**
 * Grey colours through the ramp, in place.
 * @param greys gets the greys, one a pixel
 * @returns whether all greys lay where the ramp has entries
 */
export function throughRamp(ramp: Ramp, rgb: Float32Array, count: number, greys: Float32Array): boolean {
  const { kernels, greys: room, colours, addressesOf } = compiled();
  const { from, density, values, length } = ramp;
  const [table] = addressesOf(values);
  const to = from + (length - 1) / density;
  let inside = true;
  inChunks(count, (first, n) => {
    const part = rgb.subarray(first * 3, (first + n) * 3);
    colours.view.set(part);
    const all = kernels.throughRamp(table, length - 2, from, to, density, colours.at, n, room.at);
    inside = Boolean(all) && inside;
    part.set(colours.view.subarray(0, n * 3));
    greys.set(room.view.subarray(0, n), first);
  });
  return inside;
}

const screens = new WeakMap<Ramp, Int32Array>();

/** The ramp's colours as 8-bit levels, clipped, ready to be dithered. */
function levels(ramp: Ramp): Int32Array {
  let table = screens.get(ramp);
  if (!table) {
    table = Int32Array.from(ramp.values, v => (v > 0 ? (v < 1 ? v : 1) : 0) * 255 * 2 ** DITHER_BITS);
    screens.set(ramp, table);
  }
  return table;
}

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
  const { kernels, greys: room, bytes, addressesOf } = compiled();
  const { from, density, length } = ramp;
  const [table, lifts] = addressesOf(levels(ramp), WHOLE_DITHER);
  const row = lifts + ditherRow(y) * 4;
  const half = 0.5 - from * density;
  inChunks(count, (start, n) => {
    room.view.set(greys.subarray(first + start, first + start + n));
    kernels.writeRamp8(table, length - 1, density, half, room.at, n, row, x + start, bytes.at, stride);
    out.set(bytes.view.subarray(0, n * stride), at + start * stride);
  });
}
