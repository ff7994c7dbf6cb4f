import { laidOut } from './compiled';
import { boxMean, planeOf, type Plane } from './planes';

/**
 * The guided filter: an edge-keeping smoothing that is locally a straight line in its guide, q = a · guide + b.
 * Source: K. He, J. Sun, X. Tang, "Guided Image Filtering", IEEE TPAMI 35, 2013; the coefficients are
 * found on a small picture and read at full size, as in K. He, J. Sun, "Fast Guided Filter", 2015.
 */
export interface Guided {
  a: Plane;
  b: Plane;
}

/** Two planes' product, cell by cell. */
export const product = (p: Plane, q: Plane): Plane => {
  const a = p.values;
  const b = q.values;
  const values = new Float32Array(a.length);
  for (let i = 0; i < values.length; i++) values[i] = a[i] * b[i];
  return { width: p.width, height: p.height, values };
};

/**
 * @param radius of the window, in pixels
 * @param epsilon the variance (encoded units squared) below which the guide counts as flat
 */
export function guided(guide: Plane, input: Plane, radius: number, epsilon: number): Guided {
  const meanGuide = boxMean(guide, radius);
  const self = guide === input;
  const meanInput = self ? meanGuide : boxMean(input, radius);
  const meanSquare = boxMean(product(guide, guide), radius);
  const meanProduct = self ? meanSquare : boxMean(product(guide, input), radius);
  const a = planeOf(guide.width, guide.height);
  const b = planeOf(guide.width, guide.height);
  for (let i = 0; i < a.values.length; i++) {
    const m = meanGuide.values[i];
    const variance = Math.max(0, meanSquare.values[i] - m * m);
    const covariance = self ? variance : meanProduct.values[i] - m * meanInput.values[i];
    const slope = covariance / (variance + epsilon);
    a.values[i] = slope;
    b.values[i] = meanInput.values[i] - slope * m;
  }
  return { a: boxMean(a, radius), b: boxMean(b, radius) };
}

/** The channels whose products a 3 by 3 system is made of. */
const PAIRS = [
  [0, 0],
  [0, 1],
  [0, 2],
  [1, 1],
  [1, 2],
  [2, 2],
] as const;

/** Coefficients over a guide of three channels: q = a · (r, g, b) + d. */
export interface ColourGuided {
  a: [Plane, Plane, Plane];
  d: Plane;
}

/** A guide of three channels, and what is known of it around each pixel. */
export interface ColourGuide {
  guide: readonly [Plane, Plane, Plane];
  radius: number;
  means: Plane[];
  pairs: Plane[];
}

/** The products of a guide's channels: made once for windows of several sizes. */
export const pairProducts = (guide: readonly [Plane, Plane, Plane]): Plane[] =>
  PAIRS.map(([i, j]) => product(guide[i], guide[j]));

/** @param radius of the window, in pixels */
export const colourGuide = (
  guide: readonly [Plane, Plane, Plane],
  radius: number,
  products = pairProducts(guide),
): ColourGuide => ({
  guide,
  radius,
  means: guide.map(g => boxMean(g, radius)),
  pairs: products.map(p => boxMean(p, radius)),
});

/**
 * The guided filter with a colour as its guide: section 3.3 of the paper, solving a 3 by 3 system a pixel.
 * @param inputs any number of planes, each filtered by the same guide
 */
export function colourGuided(
  { guide, radius, means, pairs }: ColourGuide,
  inputs: readonly Plane[],
  epsilon: number,
): ColourGuided[] {
  const [{ width, height }] = guide;
  const count = width * height;
  const known = [...means, ...pairs].map(plane => plane.values);
  // A row of sums in double precision is as long as two of numbers.
  const length = Math.max(count, 2 * (width + 8));
  return inputs.map(input => {
    const rooms = [input.values, null, null, null, null, null, null];
    const { at, views, bytes, kernels } = laidOut(length, ...known, ...rooms);
    const [given, room, moments, sums] = [0, 1, 2, 6].map(k => at[known.length + k]);
    const mean = (of: number, to: number) => kernels.boxMean(of, width, height, radius, room, sums, to);
    mean(given, moments);
    guide.forEach(({ values }, k) => {
      const product = moments + (k + 1) * bytes;
      views[known.length + 1].set(values);
      kernels.products(room, given, product, 1, count);
      mean(product, product);
    });
    // Each pixel's lines take the place of its means.
    kernels.colourLines(at[0], moments, count, bytes, epsilon, moments);
    const [r, g, b, d] = [0, 1, 2, 3].map((k): Plane => {
      mean(moments + k * bytes, moments + k * bytes);
      return { width, height, values: views[known.length + 2 + k].slice(0, count) };
    });
    return { a: [r, g, b], d };
  });
}
