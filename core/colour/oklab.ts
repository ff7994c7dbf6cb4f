import { cubeRoot } from './elementary';
import { toEncoded, toLinear } from './transfer';

/**
 * OKLab between encoded sRGB and (L 0..1, a, b).
 * Source: Björn Ottosson, "A perceptual color space for image processing", 2020, with the matrices of
 * the 2021 revision.
 */

/** A colour's three numbers, changed in place: [R, G, B] or [L, a, b]. */
export type Triple = Float64Array;

/** Encoded sRGB to OKLab, in place. */
export function rgbToOklab(c: Triple): void {
  for (let i = 0; i < 3; i++) c[i] = toLinear(c[i]);
  linearToOklab(c);
}

/** Linear sRGB to OKLab, in place. */
export function linearToOklab(c: Triple): void {
  const r = c[0];
  const g = c[1];
  const b = c[2];
  const l = cubeRoot(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = cubeRoot(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = cubeRoot(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  c[0] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  c[1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  c[2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
}

/** OKLab to linear sRGB, in place. */
export function oklabToLinear(c: Triple): void {
  const rootL = c[0] + 0.3963377774 * c[1] + 0.2158037573 * c[2];
  const rootM = c[0] - 0.1055613458 * c[1] - 0.0638541728 * c[2];
  const rootS = c[0] - 0.0894841775 * c[1] - 1.291485548 * c[2];
  const l = rootL * rootL * rootL;
  const m = rootM * rootM * rootM;
  const s = rootS * rootS * rootS;
  c[0] = 4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s;
  c[1] = -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s;
  c[2] = -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s;
}

/** OKLab to encoded sRGB, in place, not clipped. */
export function oklabToRgb(c: Triple): void {
  oklabToLinear(c);
  c[0] = toEncoded(c[0]);
  c[1] = toEncoded(c[1]);
  c[2] = toEncoded(c[2]);
}
