import { mostCode, type Codes } from './grid';

/** Laying a picture on a picture, pixel by pixel: encoded RGB, interleaved. */

/** Where coverage is not none: a part of a region, in pixels of the picture as the region is. */
export interface Covered {
  x: number;
  y: number;
  width: number;
  height: number;
  values: Float32Array;
}

/** The part of what is covered that lies in a rectangle; null where none does. */
export function partOfCovered(covered: Covered, within: Part & { height: number }): Covered | null {
  const x = Math.max(covered.x, within.x);
  const y = Math.max(covered.y, within.y);
  const width = Math.min(covered.x + covered.width, within.x + within.width) - x;
  const height = Math.min(covered.y + covered.height, within.y + within.height) - y;
  if (width <= 0 || height <= 0) return null;
  return { x, y, width, height, values: cut(covered.values, covered, { x, y, width, height }, 1) };
}

/**
 * A rectangle of a picture, or of a plane: the same numbers where whole rows are wanted, else copied.
 * @param of where the numbers lie; holds `part`
 * @param channels numbers a pixel
 */
export function cut<A extends Float32Array | Codes>(
  numbers: A,
  of: Part,
  part: Part & { height: number },
  channels: number,
): A {
  const row = of.width * channels;
  const from = (part.y - of.y) * row + (part.x - of.x) * channels;
  const length = part.width * channels;
  if (part.width === of.width) return numbers.subarray(from, from + part.height * row) as A;
  const out = numbers.slice(0, part.height * length) as A;
  for (let i = 0; i < part.height; i++) {
    out.set(numbers.subarray(from + i * row, from + i * row + length), i * length);
  }
  return out;
}

interface Part {
  x: number;
  y: number;
  width: number;
}

/** Works on the rows of what is covered: `work` gets their colours, to be changed in place, and how far each is covered. */
export function inCoveredRows(
  rgb: Float32Array,
  region: Part,
  covered: Covered,
  work: (rgb: Float32Array, weights: Float32Array) => void,
): void {
  alongRows(region, covered, (pixel, from) =>
    work(
      rgb.subarray(pixel * 3, (pixel + covered.width) * 3),
      covered.values.subarray(from, from + covered.width),
    ),
  );
}

/** Walks the rows of what is covered: `work` gets the first pixel in the region and in the coverage. */
function alongRows(region: Part, covered: Covered, work: (pixel: number, from: number) => void): void {
  for (let row = 0; row < covered.height; row++) {
    const pixel = (covered.y - region.y + row) * region.width + covered.x - region.x;
    work(pixel, row * covered.width);
  }
}

/** beneath + weight · (own − beneath), in place of what is beneath. */
export function layNormal(
  beneath: Float32Array,
  own: Float32Array,
  region: Part,
  covered: Covered | null,
  strength: number,
): void {
  if (!covered) {
    for (let p = 0; p < own.length; p++) beneath[p] += strength * (own[p] - beneath[p]);
    return;
  }
  alongRows(region, covered, (pixel, from) => {
    for (let i = 0, p = pixel * 3; i < covered.width; i++, p += 3) {
      const weight = strength * covered.values[from + i];
      if (weight === 0) continue;
      beneath[p] += weight * (own[p] - beneath[p]);
      beneath[p + 1] += weight * (own[p + 1] - beneath[p + 1]);
      beneath[p + 2] += weight * (own[p + 2] - beneath[p + 2]);
    }
  });
}

/** Coverage in place of a picture: white where it covers, black elsewhere. */
export function layAlone(rgb: Float32Array, region: Part, covered: Covered | null): void {
  rgb.fill(0);
  if (!covered) return;
  alongRows(region, covered, (pixel, from) => {
    for (let i = 0, p = pixel * 3; i < covered.width; i++, p += 3) {
      rgb.fill(covered.values[from + i], p, p + 3);
    }
  });
}

type Layer = (beneath: Float64Array, own: Float64Array, coverage: number) => void;

/** The same through a mix or a reach: `lay` does one pixel. */
export function layThrough(
  beneath: Float32Array,
  own: Float32Array,
  region: Part,
  covered: Covered | null,
  lay: Layer,
): void {
  const b = new Float64Array(3);
  const o = new Float64Array(3);
  const pixel = (p: number, weight: number) => {
    for (let k = 0; k < 3; k++) {
      b[k] = beneath[p + k];
      o[k] = own[p + k];
    }
    lay(b, o, weight);
    for (let k = 0; k < 3; k++) beneath[p + k] = o[k];
  };
  if (!covered) {
    for (let p = 0; p < own.length; p += 3) pixel(p, 1);
    return;
  }
  alongRows(region, covered, (first, from) => {
    for (let i = 0; i < covered.width; i++) {
      const weight = covered.values[from + i];
      if (weight > 0) pixel((first + i) * 3, weight);
    }
  });
}

/** Draws a treated picture back towards the bare one. */
export function drawBack(rgb: Float32Array, bare: Codes, strength: number): void {
  const most = mostCode(bare);
  for (let i = 0; i < rgb.length; i++) {
    const v = bare[i] / most;
    rgb[i] = v + strength * (rgb[i] - v);
  }
}

/** Pixels that a mask covers, brought together to be worked on, and put back each by its coverage. */
export interface Gathered {
  rgb: Float32Array;
  /** Which pixel of the region each is. */
  pixels: Int32Array;
  /** How much it is covered. */
  weights: Float32Array;
  count: number;
}

/** Gathers what is covered, as many at a time as there is room for, and works on each lot. */
export function gather(
  rgb: Float32Array,
  region: Part,
  covered: Covered,
  lot: Gathered,
  work: (lot: Gathered) => void,
): void {
  const { rgb: own, pixels, weights } = lot;
  const { values, width } = covered;
  const room = pixels.length;
  let n = 0;
  alongRows(region, covered, (pixel, from) => {
    for (let i = 0; i < width; i++) {
      const weight = values[from + i];
      if (weight === 0) continue;
      const p = (pixel + i) * 3;
      const o = n * 3;
      pixels[n] = pixel + i;
      weights[n] = weight;
      own[o] = rgb[p];
      own[o + 1] = rgb[p + 1];
      own[o + 2] = rgb[p + 2];
      n++;
      if (n === room) {
        lot.count = n;
        work(lot);
        n = 0;
      }
    }
  });
  lot.count = n;
  if (n) work(lot);
}

/** Puts gathered pixels back, each by its coverage and a strength. */
export function scatter(
  rgb: Float32Array,
  { rgb: own, pixels, weights, count }: Gathered,
  strength: number,
): void {
  for (let n = 0; n < count; n++) {
    const weight = strength * weights[n];
    const p = pixels[n] * 3;
    const o = n * 3;
    rgb[p] += weight * (own[o] - rgb[p]);
    rgb[p + 1] += weight * (own[o + 1] - rgb[p + 1]);
    rgb[p + 2] += weight * (own[o + 2] - rgb[p + 2]);
  }
}
