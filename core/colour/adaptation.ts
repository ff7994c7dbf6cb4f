/**
 * Chromatic adaptation in linear sRGB by the Bradford transform.
 * Source: Lam 1985, as published by B. Lindbloom, "Chromatic Adaptation"; sRGB primaries of IEC 61966-2-1.
 */

export type Matrix = readonly [
  readonly [number, number, number],
  readonly [number, number, number],
  readonly [number, number, number],
];

const RGB_TO_XYZ: Matrix = [
  [0.4123907992659595, 0.357584339383878, 0.1804807884018343],
  [0.2126390058715104, 0.715168678767756, 0.0721923153607337],
  [0.0193308187155918, 0.119194779794626, 0.9505321522496607],
];
const XYZ_TO_RGB: Matrix = [
  [3.2409699419045226, -1.537383177570094, -0.4986107602930034],
  [-0.9692436362808796, 1.8759675015077202, 0.0415550574071756],
  [0.0556300796969937, -0.2039769588889765, 1.0569715142428786],
];
const XYZ_TO_CONES: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];
const CONES_TO_XYZ: Matrix = [
  [0.9869929, -0.1470543, 0.1599627],
  [0.4323053, 0.5183603, 0.0492912],
  [-0.0085287, 0.0400428, 0.9684867],
];

type Row = [number, number, number];

/** A matrix made of another, row by row. */
export const byRow = (m: Matrix, make: (row: readonly number[], i: number) => Row): Matrix => [
  make(m[0], 0),
  make(m[1], 1),
  make(m[2], 2),
];

export function multiply(a: Matrix, b: Matrix): Matrix {
  return byRow(a, row => [0, 1, 2].map(j => row[0] * b[0][j] + row[1] * b[1][j] + row[2] * b[2][j]) as Row);
}

export function apply(m: Matrix, [x, y, z]: readonly number[]): [number, number, number] {
  return m.map(row => row[0] * x + row[1] * y + row[2] * z) as [number, number, number];
}

const RGB_TO_CONES = multiply(XYZ_TO_CONES, RGB_TO_XYZ);
const CONES_TO_RGB = multiply(XYZ_TO_RGB, CONES_TO_XYZ);

/** Cone responses (Bradford) of a linear sRGB colour. */
export const conesOf = (linear: readonly number[]) => apply(RGB_TO_CONES, linear);

/** The matrix on linear sRGB that multiplies each cone response by a gain. */
export function coneGains([l, m, s]: readonly number[]): Matrix {
  const scaled = byRow(RGB_TO_CONES, (row, i) => row.map(v => v * [l, m, s][i]) as Row);
  return multiply(CONES_TO_RGB, scaled);
}
