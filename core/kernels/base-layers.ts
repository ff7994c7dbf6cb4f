import { LUMINANCE } from '../colour/srgb';
import type { RgbPart } from './channels';
import { compiled } from './compiled';
import { throughLines, type Lines } from './lines';
import { planeRows, type Plane } from './planes';

/** Local contrast and haze, pixel by pixel, from coefficients found in the small picture. */

interface Size {
  width: number;
  height: number;
}

const [R, G, B] = LUMINANCE;

/** A change of a tone within the room that there is towards white or black, where it comes to rest; small ones are kept. */
const within = (room: number, change: number): number =>
  room > 0 ? (change * room) / Math.sqrt(room * room + change * change) : 0;

/**
 * Takes luma apart into a base and three details, and puts it together with other weights; the change is
 * laid on the three channels so that neutrals stay neutral and colours keep their look. It never leads beyond white or black, and leaves them
 * as they are.
 * @param layers two numbers a pixel, of the fine base over luma, of the medium over the fine, of the coarse over the
 *   medium: q = a · p + b
 * @param gains what is added of the fine, the medium and the coarse detail
 */
export function reweigh(
  part: RgbPart,
  layers: readonly Lines[],
  of: Size,
  [fine, medium, coarse]: readonly [number, number, number],
  out: Float32Array,
): void {
  const { kernels } = compiled();
  throughLines(part, layers, of, out, (colours, count, rows) =>
    kernels.reweigh(...rows.flat(), fine, medium, coarse, colours, count),
  );
}

/**
 * Haze taken away (or laid on), in place: J = (I − A) / t + A, where t is what the haze lets through.
 * @param planes a and b of how much haze there is: 1 − t = a · luma + b
 * @param amount -1..1
 * @param veil the haze's own light A
 */
export function clearHaze(
  rgb: Float32Array,
  region: Omit<RgbPart, 'rgb'>,
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

/**
 * A colour at each pixel with the texture of what lies there: how far its luma stands from the base, laid on the colour
 * within the room that this has towards white and black.
 * @param planes a and b of the base over luma
 * @param colourAt turns what lies beneath into the colour, in place
 */
export function layTexture(
  { rgb, ...region }: RgbPart,
  planes: readonly [Plane, Plane],
  of: Size,
  colourAt: (c: Float64Array) => void,
  out: Float32Array,
): void {
  const readers = planes.map(plane => planeRows(plane, of, region));
  const [a, b] = readers.map(r => r.row);
  const c = new Float64Array(3);
  for (let y = 0, p = 0; y < region.height; y++) {
    for (const reader of readers) reader.read(y);
    for (let x = 0; x < region.width; x++, p += 3) {
      for (let k = 0; k < 3; k++) c[k] = rgb[p + k];
      const v = R * c[0] + G * c[1] + B * c[2];
      const texture = v - (a[x] * v + b[x]);
      colourAt(c);
      const tone = R * c[0] + G * c[1] + B * c[2];
      const change = texture > 0 ? within(1 - tone, texture) : within(tone, texture);
      for (let k = 0; k < 3; k++) out[p + k] = c[k] + change;
    }
  }
}
