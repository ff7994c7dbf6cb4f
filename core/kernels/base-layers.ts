import { LUMINANCE } from '../colour/srgb';
import { planeRows, type Plane } from './planes';

/** Local contrast and haze, pixel by pixel, from coefficients found in the small picture. */

interface Region {
  rgb: Float32Array;
  x: number;
  y: number;
  width: number;
  height: number;
}
interface Size {
  width: number;
  height: number;
}

const [R, G, B] = LUMINANCE;

/**
 * Takes luma apart into a base and three details, and puts it together with other weights; the change is
 * added to the three channels alike, so that neutrals stay neutral.
 * @param planes a and b of the fine, the medium and the coarse base: q = a · luma + b
 * @param gains what is added of the fine, the medium and the coarse detail
 */
export function reweigh(
  { rgb, ...region }: Region,
  planes: readonly Plane[],
  of: Size,
  [fine, medium, coarse]: readonly [number, number, number],
  out: Float32Array,
): void {
  const readers = planes.map(plane => planeRows(plane, of, region));
  const [fineA, fineB, mediumA, mediumB, coarseA, coarseB] = readers.map(r => r.row);
  for (let y = 0, p = 0; y < region.height; y++) {
    for (const reader of readers) reader.read(y);
    for (let x = 0; x < region.width; x++, p += 3) {
      const v = R * rgb[p] + G * rgb[p + 1] + B * rgb[p + 2];
      const first = fineA[x] * v + fineB[x];
      const second = mediumA[x] * v + mediumB[x];
      const third = coarseA[x] * v + coarseB[x];
      const change = fine * (v - first) + medium * (first - second) + coarse * (second - third);
      out[p] = rgb[p] + change;
      out[p + 1] = rgb[p + 1] + change;
      out[p + 2] = rgb[p + 2] + change;
    }
  }
}

/**
 * Haze taken away (or laid on), in place: J = (I − A) / t + A, where t is what the haze lets through.
 * @param planes a and b of how much haze there is: 1 − t = a · luma + b
 * @param amount -1..1
 * @param veil the haze's own light A
 */
export function clearHaze(
  rgb: Float32Array,
  region: Omit<Region, 'rgb'>,
  planes: readonly [Plane, Plane],
  of: Size,
  amount: number,
  veil: number,
): void {
  const readers = planes.map(plane => planeRows(plane, of, region));
  const [a, b] = readers.map(r => r.row);
  for (let y = 0, p = 0; y < region.height; y++) {
    for (const reader of readers) reader.read(y);
    for (let x = 0; x < region.width; x++, p += 3) {
      const v = R * rgb[p] + G * rgb[p + 1] + B * rgb[p + 2];
      let haze = a[x] * v + b[x];
      if (haze < 0) haze = 0;
      else if (haze > 1) haze = 1;
      if (amount > 0) {
        let through = 1 - amount * haze;
        if (through < 0.2) through = 0.2;
        for (let k = p; k < p + 3; k++) rgb[k] = (rgb[k] - veil) / through + veil;
      } else {
        const through = 1 + amount * (0.25 + 0.5 * haze);
        for (let k = p; k < p + 3; k++) rgb[k] = rgb[k] * through + veil * (1 - through);
      }
    }
  }
}
