import { LUMINANCE } from '../colour/srgb';
import type { RgbPart } from './channels';
import type { Plane } from './planes';

const [R, G, B] = LUMINANCE;

/** Straight lines over red, green and blue at each pixel of a small picture: of red less luma, then of blue less luma. */
export interface ChromaLines {
  width: number;
  height: number;
  /** Eight numbers a pixel: the slopes over red, green and blue, and the rest; twice. */
  values: Float32Array;
}

const EACH = 8;

/** @param planes the eight numbers, one plane each */
export function chromaLines(planes: readonly Plane[]): ChromaLines {
  const [{ width, height }] = planes;
  const values = new Float32Array(width * height * EACH);
  planes.forEach((plane, k) => {
    for (let i = 0, o = k; i < plane.values.length; i++, o += EACH) values[o] = plane.values[i];
  });
  return { width, height, values };
}

/**
 * Colours with their own luma and a quiet chroma: red less luma and blue less luma are read from straight lines in the
 * colour itself, found in the small picture, which follow its edges and leave out its noise. Greys stay as they are.
 * The lines are read between the small picture's pixels by where a pixel lies in the whole, whatever the part.
 * @param of the size of the picture that the region lies in
 */
export function calmChroma(
  { rgb, x: left, y: top, width, height }: RgbPart,
  lines: ChromaLines,
  of: { width: number; height: number },
  out: Float32Array,
): void {
  const { values } = lines;
  const across = lines.width / of.width;
  const down = lines.height / of.height;
  const lastColumn = lines.width - 1;
  const lastRow = lines.height - 1;
  const line = new Float32Array(lines.width * EACH);
  const from = Math.max(0, Math.floor((left + 0.5) * across - 0.5));
  const to = Math.min(lastColumn, Math.floor((left + width - 0.5) * across - 0.5) + 1);
  for (let row = 0, p = 0; row < height; row++) {
    const atY = Math.min(lastRow, Math.max(0, (top + row + 0.5) * down - 0.5));
    const y = Math.min(Math.max(0, lastRow - 1), Math.floor(atY));
    const f = atY - y;
    const above = y * lines.width * EACH;
    const below = Math.min(lastRow, y + 1) * lines.width * EACH;
    for (let k = from * EACH; k < (to + 1) * EACH; k++) {
      line[k] = values[above + k] + (values[below + k] - values[above + k]) * f;
    }
    for (let column = 0; column < width;) {
      // All pixels between the same two of the small picture.
      const first = (left + column + 0.5) * across - 0.5;
      const x = Math.max(0, Math.min(lastColumn, Math.floor(first)));
      const a = x * EACH;
      const b = first < 0 ? a : Math.min(lastColumn, x + 1) * EACH;
      const rr = line[a];
      const rg = line[a + 1];
      const rb = line[a + 2];
      const rd = line[a + 3];
      const br = line[a + 4];
      const bg = line[a + 5];
      const bb = line[a + 6];
      const bd = line[a + 7];
      const rrBy = line[b] - rr;
      const rgBy = line[b + 1] - rg;
      const rbBy = line[b + 2] - rb;
      const rdBy = line[b + 3] - rd;
      const brBy = line[b + 4] - br;
      const bgBy = line[b + 5] - bg;
      const bbBy = line[b + 6] - bb;
      const bdBy = line[b + 7] - bd;
      for (; column < width; column++, p += 3) {
        const at = (left + column + 0.5) * across - 0.5;
        if (at >= x + 1 && x < lastColumn) break;
        if (first < 0 && at >= 0) break;
        const t = at - x;
        const red = rgb[p];
        const green = rgb[p + 1];
        const blue = rgb[p + 2];
        if (red === green && red === blue) {
          out[p] = red;
          out[p + 1] = red;
          out[p + 2] = red;
          continue;
        }
        const luma = R * red + G * green + B * blue;
        const chromaR =
          (rr + rrBy * t) * red + (rg + rgBy * t) * green + (rb + rbBy * t) * blue + rd + rdBy * t;
        const chromaB =
          (br + brBy * t) * red + (bg + bgBy * t) * green + (bb + bbBy * t) * blue + bd + bdBy * t;
        const chromaG = -(R * chromaR + B * chromaB) / G;
        const most = Math.max(chromaR, chromaG, chromaB);
        const least = Math.min(chromaR, chromaG, chromaB);
        // What would leave the range keeps its luma and gives up chroma.
        let share = 1;
        if (luma + most > 1) share = luma < 1 ? (1 - luma) / most : 0;
        if (luma + least < 0) share = Math.min(share, luma > 0 ? -luma / least : 0);
        out[p] = luma + share * chromaR;
        out[p + 1] = luma + share * chromaG;
        out[p + 2] = luma + share * chromaB;
      }
    }
  }
}

/** A channel less the luma of the three. */
export function chromaPlane({ width, height, values }: Plane, r: Plane, g: Plane, b: Plane): Plane {
  const out = new Float32Array(values.length);
  for (let i = 0; i < out.length; i++) {
    out[i] = values[i] - (R * r.values[i] + G * g.values[i] + B * b.values[i]);
  }
  return { width, height, values: out };
}
