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

const product = (p: Plane, q: Plane): Plane => {
  const out = planeOf(p.width, p.height);
  for (let i = 0; i < out.values.length; i++) out.values[i] = p.values[i] * q.values[i];
  return out;
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

/** Coefficients over a guide of three channels: q = a · (r, g, b) + d. */
export interface ColourGuided {
  a: [Plane, Plane, Plane];
  d: Plane;
}

/**
 * The guided filter with a colour as its guide: section 3.3 of the paper, solving a 3 by 3 system a pixel.
 * @param inputs any number of planes, each filtered by the same guide
 */
export function colourGuided(
  guide: readonly [Plane, Plane, Plane],
  inputs: readonly Plane[],
  radius: number,
  epsilon: number,
): ColourGuided[] {
  const [{ width, height }] = guide;
  const means = guide.map(g => boxMean(g, radius));
  const pairs = [
    [0, 0],
    [0, 1],
    [0, 2],
    [1, 1],
    [1, 2],
    [2, 2],
  ].map(([i, j]) => boxMean(product(guide[i], guide[j]), radius));
  const ofInputs = inputs.map(input => ({
    mean: boxMean(input, radius).values,
    products: guide.map(g => boxMean(product(g, input), radius).values),
    a: [planeOf(width, height), planeOf(width, height), planeOf(width, height)] as [Plane, Plane, Plane],
    d: planeOf(width, height),
  }));
  for (let i = 0; i < width * height; i++) {
    const r = means[0].values[i];
    const g = means[1].values[i];
    const b = means[2].values[i];
    const rr = pairs[0].values[i] - r * r + epsilon;
    const rg = pairs[1].values[i] - r * g;
    const rb = pairs[2].values[i] - r * b;
    const gg = pairs[3].values[i] - g * g + epsilon;
    const gb = pairs[4].values[i] - g * b;
    const bb = pairs[5].values[i] - b * b + epsilon;
    const c00 = gg * bb - gb * gb;
    const c01 = rb * gb - rg * bb;
    const c02 = rg * gb - rb * gg;
    const c11 = rr * bb - rb * rb;
    const c12 = rg * rb - rr * gb;
    const c22 = rr * gg - rg * rg;
    const determinant = rr * c00 + rg * c01 + rb * c02;
    for (const { mean, products, a, d } of ofInputs) {
      const p = mean[i];
      const rp = products[0][i] - r * p;
      const gp = products[1][i] - g * p;
      const bp = products[2][i] - b * p;
      const ar = (c00 * rp + c01 * gp + c02 * bp) / determinant;
      const ag = (c01 * rp + c11 * gp + c12 * bp) / determinant;
      const ab = (c02 * rp + c12 * gp + c22 * bp) / determinant;
      a[0].values[i] = ar;
      a[1].values[i] = ag;
      a[2].values[i] = ab;
      d.values[i] = p - ar * r - ag * g - ab * b;
    }
  }
  return ofInputs.map(({ a, d }) => ({
    a: a.map(plane => boxMean(plane, radius)) as [Plane, Plane, Plane],
    d: boxMean(d, radius),
  }));
}
