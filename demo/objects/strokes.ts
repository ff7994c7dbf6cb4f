import type { Stroke } from '../../core/settings/fields';
import { stroke } from '../stroke';

/**
 * Rough strokes for the things whose exact areas lie in this folder, as a hand lays them in a hurry: what the area finder is measured
 * with. They are given, and are not made to suit it.
 */

export interface RoughStrokes {
  photograph: string;
  strokesIn: Stroke[];
  strokesOut: Stroke[];
}

const FINE = 0.004;
const BROAD = 0.009;

export const roughStrokes: Record<string, RoughStrokes> = {
  'front-quince': {
    photograph: 'quinces-and-enamel-jug',
    strokesIn: [
      stroke(
        BROAD,
        [0.14, 0.61],
        [0.19, 0.57],
        [0.24, 0.61],
        [0.24, 0.67],
        [0.19, 0.7],
        [0.14, 0.66],
        [0.2, 0.62],
      ),
    ],
    strokesOut: [
      stroke(BROAD, [0.06, 0.61], [0.09, 0.55], [0.13, 0.52]),
      stroke(
        BROAD,
        [0.06, 0.72],
        [0.15, 0.76],
        [0.25, 0.76],
        [0.3, 0.7],
        [0.31, 0.6],
        [0.27, 0.5],
        [0.16, 0.44],
        [0.06, 0.47],
        [0.05, 0.7],
      ),
    ],
  },
  'right-quince': {
    photograph: 'quinces-and-enamel-jug',
    strokesIn: [
      stroke(
        BROAD,
        [0.84, 0.69],
        [0.86, 0.64],
        [0.9, 0.62],
        [0.93, 0.67],
        [0.92, 0.72],
        [0.88, 0.75],
        [0.85, 0.72],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.8, 0.6],
        [0.79, 0.7],
        [0.83, 0.8],
        [0.93, 0.81],
        [0.98, 0.72],
        [0.97, 0.6],
        [0.9, 0.55],
        [0.81, 0.58],
      ),
    ],
  },
  jug: {
    photograph: 'quinces-and-enamel-jug',
    strokesIn: [
      stroke(
        0.006,
        [0.485, 0.42],
        [0.465, 0.34],
        [0.456, 0.26],
        [0.468, 0.19],
        [0.5, 0.165],
        [0.56, 0.17],
        [0.62, 0.25],
        [0.58, 0.4],
        [0.54, 0.52],
        [0.6, 0.63],
        [0.68, 0.58],
        [0.67, 0.4],
        [0.65, 0.2],
        [0.72, 0.12],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.48, 0.06],
        [0.42, 0.14],
        [0.43, 0.35],
        [0.47, 0.6],
        [0.52, 0.74],
        [0.7, 0.73],
        [0.77, 0.6],
        [0.74, 0.4],
        [0.71, 0.27],
        [0.78, 0.1],
        [0.72, 0.05],
        [0.5, 0.06],
      ),
      stroke(FINE, [0.5, 0.2], [0.482, 0.27], [0.495, 0.36], [0.5, 0.4]),
    ],
  },
  shawl: {
    photograph: 'keepers-chair',
    strokesIn: [
      stroke(BROAD, [0.38, 0.36], [0.49, 0.36], [0.38, 0.4], [0.49, 0.42], [0.38, 0.45], [0.49, 0.48]),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.31, 0.34],
        [0.32, 0.45],
        [0.34, 0.53],
        [0.45, 0.53],
        [0.56, 0.52],
        [0.56, 0.36],
        [0.5, 0.3],
        [0.36, 0.3],
        [0.31, 0.33],
      ),
      stroke(FINE, [0.34, 0.37], [0.335, 0.45], [0.35, 0.511], [0.42, 0.514], [0.5, 0.515]),
    ],
  },
  stove: {
    photograph: 'keepers-chair',
    strokesIn: [
      stroke(
        BROAD,
        [0.71, 0.06],
        [0.755, 0.1],
        [0.71, 0.16],
        [0.75, 0.24],
        [0.705, 0.3],
        [0.74, 0.37],
        [0.73, 0.41],
        [0.66, 0.46],
        [0.8, 0.47],
        [0.66, 0.54],
        [0.8, 0.58],
        [0.66, 0.64],
        [0.8, 0.67],
        [0.65, 0.69],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.62, 0.02],
        [0.62, 0.25],
        [0.57, 0.45],
        [0.57, 0.7],
        [0.63, 0.78],
        [0.82, 0.79],
        [0.88, 0.7],
        [0.9, 0.45],
        [0.82, 0.3],
        [0.83, 0.02],
        [0.63, 0.02],
      ),
    ],
  },
  boat: {
    photograph: 'ferry-boat-at-slack-water',
    strokesIn: [
      stroke(
        BROAD,
        [0.12, 0.52],
        [0.25, 0.54],
        [0.4, 0.55],
        [0.55, 0.54],
        [0.7, 0.51],
        [0.75, 0.52],
        [0.735, 0.615],
        [0.6, 0.635],
        [0.4, 0.645],
        [0.2, 0.645],
        [0.125, 0.62],
        [0.11, 0.57],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.07, 0.43],
        [0.06, 0.6],
        [0.12, 0.71],
        [0.4, 0.71],
        [0.72, 0.7],
        [0.8, 0.6],
        [0.82, 0.5],
        [0.78, 0.41],
        [0.4, 0.44],
        [0.1, 0.42],
      ),
      stroke(FINE, [0.13, 0.675], [0.3, 0.68], [0.5, 0.675], [0.65, 0.665], [0.74, 0.65]),
    ],
  },
  'blue-bottle': {
    photograph: 'bottles-on-the-sill',
    strokesIn: [
      stroke(
        BROAD,
        [0.11, 0.2],
        [0.113, 0.33],
        [0.08, 0.46],
        [0.15, 0.5],
        [0.08, 0.6],
        [0.15, 0.68],
        [0.08, 0.78],
        [0.15, 0.79],
      ),
      stroke(
        FINE,
        [0.095, 0.19],
        [0.098, 0.31],
        [0.06, 0.4],
        [0.055, 0.6],
        [0.056, 0.78],
        [0.17, 0.79],
        [0.175, 0.6],
        [0.17, 0.4],
        [0.13, 0.31],
        [0.13, 0.19],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.09, 0.11],
        [0.05, 0.3],
        [0.025, 0.5],
        [0.02, 0.82],
        [0.1, 0.86],
        [0.2, 0.84],
        [0.21, 0.6],
        [0.19, 0.4],
        [0.16, 0.28],
        [0.16, 0.14],
        [0.1, 0.11],
      ),
    ],
  },
  'crimson-ball': {
    photograph: 'dyers-baskets',
    strokesIn: [
      stroke(
        BROAD,
        [0.37, 0.76],
        [0.39, 0.71],
        [0.43, 0.7],
        [0.46, 0.76],
        [0.44, 0.82],
        [0.4, 0.82],
        [0.38, 0.78],
      ),
      stroke(FINE, [0.378, 0.82], [0.363, 0.77], [0.375, 0.715], [0.405, 0.685], [0.44, 0.69], [0.465, 0.73]),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.33, 0.7],
        [0.33, 0.83],
        [0.4, 0.9],
        [0.48, 0.86],
        [0.5, 0.75],
        [0.46, 0.65],
        [0.38, 0.63],
        [0.34, 0.69],
      ),
    ],
  },
  'sky-ball': {
    photograph: 'dyers-baskets',
    strokesIn: [
      stroke(
        BROAD,
        [0.64, 0.72],
        [0.66, 0.67],
        [0.7, 0.66],
        [0.73, 0.71],
        [0.71, 0.77],
        [0.67, 0.785],
        [0.645, 0.76],
      ),
    ],
    strokesOut: [
      stroke(
        BROAD,
        [0.6, 0.67],
        [0.6, 0.79],
        [0.67, 0.86],
        [0.75, 0.82],
        [0.77, 0.7],
        [0.72, 0.6],
        [0.63, 0.59],
        [0.6, 0.66],
      ),
      stroke(FINE, [0.615, 0.79], [0.65, 0.825], [0.7, 0.83], [0.74, 0.79]),
    ],
  },
  door: {
    photograph: 'third-door',
    strokesIn: [
      stroke(
        BROAD,
        [0.17, 0.48],
        [0.4, 0.52],
        [0.72, 0.48],
        [0.18, 0.6],
        [0.72, 0.66],
        [0.17, 0.78],
        [0.72, 0.86],
        [0.3, 0.9],
      ),
      stroke(FINE, [0.16, 0.82], [0.16, 0.9], [0.5, 0.905], [0.735, 0.905], [0.735, 0.6], [0.73, 0.47]),
    ],
    strokesOut: [
      stroke(BROAD, [0.08, 0.97], [0.1, 0.4], [0.4, 0.38], [0.8, 0.4], [0.82, 0.97], [0.1, 0.975]),
    ],
  },
};

/** Areas painted broadly over things that are finer than any brush, with how wide a band along their edge is to be found anew. */
export interface PaintedOver {
  photograph: string;
  strokes: Stroke[];
  fine: number;
  /** The part of the photograph that is looked at, as fractions: left, top, right, bottom. */
  within: [number, number, number, number];
}

export const paintedOver: Record<string, PaintedOver> = {
  // The tops against the sky; the mass of reeds below them is painted whole.
  reeds: {
    photograph: 'reeds-first-frost',
    fine: 0.05,
    within: [0, 0, 1, 0.42],
    strokes: [
      stroke(
        0.04,
        [0.06, 0.5],
        [0.1, 0.42],
        [0.17, 0.33],
        [0.25, 0.35],
        [0.35, 0.3],
        [0.45, 0.26],
        [0.55, 0.3],
        [0.63, 0.35],
        [0.72, 0.38],
        [0.8, 0.3],
        [0.88, 0.27],
        [0.99, 0.15],
      ),
      stroke(0.03, [0.28, 0.03], [0.27, 0.22]),
      stroke(0.03, [0.65, 0.08], [0.58, 0.14], [0.53, 0.25]),
      stroke(0.02, [0.32, 0.26], [0.36, 0.15], [0.41, 0.12], [0.47, 0.2]),
      stroke(
        0.1,
        [0.08, 0.55],
        [0.3, 0.5],
        [0.5, 0.5],
        [0.7, 0.55],
        [0.9, 0.45],
        [0.99, 0.4],
        [0.95, 0.7],
        [0.7, 0.75],
        [0.4, 0.75],
        [0.1, 0.8],
        [0.2, 0.95],
        [0.95, 0.95],
      ),
    ],
  },
  // The wire by which it is carried, where it stands free of the lantern.
  'red-lantern': {
    photograph: 'lantern-store',
    fine: 0.016,
    within: [0.27, 0.18, 0.33, 0.36],
    strokes: [
      stroke(
        0.008,
        [0.215, 0.216],
        [0.25, 0.213],
        [0.28, 0.222],
        [0.303, 0.26],
        [0.3, 0.31],
        [0.285, 0.345],
        [0.265, 0.35],
      ),
    ],
  },
  'green-lantern': {
    photograph: 'lantern-store',
    fine: 0.016,
    within: [0.937, 0.18, 1, 0.36],
    strokes: [
      stroke(
        0.008,
        [0.87, 0.21],
        [0.91, 0.212],
        [0.945, 0.225],
        [0.968, 0.26],
        [0.965, 0.31],
        [0.95, 0.345],
        [0.935, 0.35],
      ),
    ],
  },
};
