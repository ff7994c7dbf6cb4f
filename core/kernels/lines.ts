import type { RgbPart } from './channels';
import { compiled, copyCodes, inChunks } from './compiled';
import type { Codes } from './grid';
import type { Plane } from './planes';

/** Straight lines found at each pixel of a small picture, read at the pixels of a large one. */

/** The coefficients of lines at each pixel of a small picture that stands for a whole one. */
export interface Lines {
  width: number;
  height: number;
  /** Numbers a pixel: an even count. */
  each: number;
  /** Row by row; a row ends with its last pixel twice, so that each has a neighbour. */
  values: Float32Array;
}

/** @param planes of one size: the first number of each pixel, the second, and so on */
export function linesOf(planes: readonly Plane[]): Lines {
  const [{ width, height }] = planes;
  const each = planes.length;
  const values = new Float32Array((width + 1) * height * each);
  planes.forEach((plane, k) => {
    for (let y = 0, i = 0, o = k; y < height; y++) {
      for (let x = 0; x < width; x++, i++, o += each) values[o] = plane.values[i];
      values[o] = plane.values[i - 1];
      o += each;
    }
  });
  return { width, height, each, values };
}

/** Addresses of what a kernel reads lines from: a row of them, where each pixel's lie in it, and its share of the way on. */
export type LineRow = readonly [line: number, places: number, shares: number];

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
const even = (bytes: number) => (bytes + 31) & ~15;

/** Where a pixel's middle lies among a row or a column of small pixels: the one before it, and the share of the way on. */
function between(pixel: number, small: number, of: number): [number, number] {
  const at = Math.min(small - 1, Math.max(0, ((pixel + 0.5) * small) / of - 0.5));
  const first = Math.max(0, Math.min(small - 2, Math.floor(at)));
  return [first, at - first];
}

/** Where the pixels of a row lie among small ones: bytes to the first of each two, and shares. */
interface Places {
  of: string;
  places: Int32Array;
  shares: Float32Array;
}
/** Those asked for last: rows of one part ask for the same again and again. */
const known: Places[] = [];
const MOST_KNOWN = 12;

function placesOf(left: number, width: number, { width: small, each }: Lines, of: number): Places {
  const key = `${left} ${width} ${small} ${each} ${of}`;
  const found = known.find(k => k.of === key);
  if (found) return found;
  // A few more, for kernels that take several pixels at a time.
  const made = { of: key, places: new Int32Array(width + 3), shares: new Float32Array(width + 3) };
  for (let x = 0; x < width; x++) {
    const [first, share] = between(left + x, small, of);
    made.places[x] = first * each * FLOAT;
    made.shares[x] = share;
  }
  known.unshift(made);
  known.length = Math.min(known.length, MOST_KNOWN);
  return made;
}

/**
 * Takes a part of a picture through a kernel that reads lines, row by row. A pixel's lines depend on where it lies in the
 * picture alone, whatever the part.
 * @param of the size of the picture that the part lies in
 * @param out may be the part's own colours
 */
export function throughLines(
  part: RgbPart,
  lines: readonly Lines[],
  of: { width: number; height: number },
  out: Float32Array,
  kernel: RowKernel,
): void {
  const { rgb, width } = part;
  inLines(part, lines, of, (colours, y, at, rows) => {
    const from = y * width * 3;
    colours.set(rgb.subarray(from, from + width * 3));
    kernel(at, width, rows);
    out.set(colours, from);
  });
}

/** The same from codes to codes of 16 bits, clipped. */
export function throughLinesInCodes(
  codes: Codes,
  part: Omit<RgbPart, 'rgb'>,
  lines: readonly Lines[],
  of: { width: number; height: number },
  out: Uint16Array,
  kernel: RowKernel,
): void {
  const { kernels, codes16 } = compiled();
  const { width } = part;
  inLines(part, lines, of, (_, y, at, rows) => {
    inChunks(width, (x, count) => {
      const source = copyCodes(codes, y * width + x, count);
      const to = at + x * 3 * FLOAT;
      if (codes instanceof Uint8Array) kernels.readCodes8(source, count * 3, to);
      else kernels.readCodes16(source, count * 3, to);
    });
    kernel(at, width, rows);
    inChunks(width, (x, count) => {
      kernels.toCodes(at + x * 3 * FLOAT, (count * 3 + 3) & ~3, codes16.at);
      out.set(codes16.view.subarray(0, count * 3), (y * width + x) * 3);
    });
  });
}

/** Changes a row of colours in place: where they lie, how many, and its lines. */
export type RowKernel = (colours: number, count: number, rows: readonly LineRow[]) => void;

/** Calls back with each row of a part: room for its colours, and the lines at them. */
function inLines(
  { x: left, y: top, width, height }: Omit<RgbPart, 'rgb'>,
  lines: readonly Lines[],
  of: { width: number; height: number },
  onRow: (colours: Float32Array, y: number, at: number, rows: readonly LineRow[]) => void,
): void {
  const { kernels, workspace } = compiled();
  const rowBytes = lines.map(l => even((l.width + 1) * l.each * FLOAT));
  const colourBytes = even(width * 3 * FLOAT);
  const places = lines.map(l => placesOf(left, width, l, of.width));
  const { buffer, at, tables } = workspace(
    rowBytes.reduce((sum, bytes) => sum + bytes, colourBytes),
    ...lines.map(l => l.values),
    ...places.flatMap(p => [p.places, p.shares]),
  );
  let free = at + colourBytes;
  const rows = lines.map((_, k): LineRow => {
    const row: LineRow = [free, tables[lines.length + 2 * k], tables[lines.length + 2 * k + 1]];
    free += rowBytes[k];
    return row;
  });
  const colours = new Float32Array(buffer, at, width * 3);
  for (let y = 0; y < height; y++) {
    lines.forEach((l, k) => {
      const [first, share] = between(top + y, l.height, of.height);
      const count = (l.width + 1) * l.each;
      const above = tables[k] + first * count * FLOAT;
      const below = l.height > 1 ? above + count * FLOAT : above;
      kernels.blend(above, below, count, share, rows[k][0]);
    });
    onRow(colours, y, at, rows);
  }
}
