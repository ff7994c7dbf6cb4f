import { mostCode, type Codes } from './grid';
import { decode } from '../colour/srgb';
import { tabulate } from '../colour/tabulate';
import { encodings } from '../colour/transfer';
import { compiled } from './compiled';

/**
 * A picture at half its size: the mean of two by two pixels in linear light, so that fine detail keeps its
 * brightness. An odd last row or column stands for itself.
 * @returns 16-bit codes, interleaved RGB, of half the width and height, rounded up
 */
export function halve(codes: Codes, width: number, height: number): Uint16Array {
  const out = new Uint16Array(Math.ceil(width / 2) * Math.ceil(height / 2) * 3);
  halveRows(codes, width, height, 0, Math.ceil(height / 2), out);
  return out;
}

const lights = new Map<number, Float64Array>();
/** A quarter of the linear light of each code. */
function lightsOf(most: number): Float64Array {
  const known = lights.get(most) ?? tabulate(most + 1, i => decode(i / most) / 4);
  lights.set(most, known);
  return known;
}

/** The same of some rows: `rows` of the half from row `from` on, written into it whole. */
export function halveRows(
  codes: Codes,
  width: number,
  height: number,
  from: number,
  rows: number,
  out: Uint16Array,
): void {
  const { kernels, workspace } = compiled();
  const isNarrow = codes instanceof Uint8Array;
  const inBytes = width * 3 * codes.BYTES_PER_ELEMENT;
  const outLength = Math.ceil(width / 2) * 3;
  const room = (inBytes + 79) & ~63;
  const { buffer, at, tables } = workspace(2 * room + outLength * 2, lightsOf(mostCode(codes)), encodings);
  const View = isNarrow ? Uint8Array : Uint16Array;
  const above = new View(buffer, at, width * 3);
  const below = new View(buffer, at + room, width * 3);
  const half = new Uint16Array(buffer, at + 2 * room, outLength);
  const kernel = isNarrow ? kernels.halve8 : kernels.halve16;
  for (let y = from; y < from + rows; y++) {
    const row = 2 * y * width * 3;
    const next = Math.min(height - 1, 2 * y + 1) * width * 3;
    above.set(codes.subarray(row, row + width * 3));
    below.set(codes.subarray(next, next + width * 3));
    kernel(at, at + room, width, tables[0], tables[1], at + 2 * room);
    out.set(half, y * outLength);
  }
}
