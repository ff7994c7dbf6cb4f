import { LUMINANCE } from '../colour/srgb';
import type { RgbPart } from './channels';
import { compiled } from './compiled';
import type { Codes } from './grid';
import { throughLines, throughLinesInCodes, type Lines, type RowKernel } from './lines';
import type { Plane } from './planes';

const [R, G, B] = LUMINANCE;

/**
 * Colours with their own luma and a quiet chroma: red less luma and blue less luma are read from straight lines in the
 * colour itself, found in the small picture, which follow its edges and leave out its noise. Greys stay as they are; what
 * would leave the range keeps its luma and gives up chroma.
 * @param lines eight numbers a pixel: the slopes over red, green and blue, and the rest; of red less luma, then of blue
 * @param of the size of the picture that the region lies in
 */
export function calmChroma(
  part: RgbPart,
  lines: Lines,
  of: { width: number; height: number },
  out: Float32Array,
): void {
  throughLines(part, [lines], of, out, calmRow);
}

/** The same from codes to codes of 16 bits. */
export function calmCodes(
  codes: Codes,
  part: Omit<RgbPart, 'rgb'>,
  lines: Lines,
  of: { width: number; height: number },
  out: Uint16Array,
): void {
  throughLinesInCodes(codes, part, [lines], of, out, calmRow);
}

const calmRow: RowKernel = (colours, count, [[line, places, shares]]) =>
  compiled().kernels.calm(line, places, shares, colours, count);

/** A channel less the luma of the three. */
export function chromaPlane({ width, height, values }: Plane, r: Plane, g: Plane, b: Plane): Plane {
  const out = new Float32Array(values.length);
  for (let i = 0; i < out.length; i++) {
    out[i] = values[i] - (R * r.values[i] + G * g.values[i] + B * b.values[i]);
  }
  return { width, height, values: out };
}
