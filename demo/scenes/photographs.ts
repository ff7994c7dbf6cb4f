import type { Development } from './develop';
import { boat } from './boat';
import { bottles } from './bottles';
import { chair } from './chair';
import { lanterns } from './lanterns';
import { quinces } from './quinces';
import { reeds } from './reeds';
import { sheds } from './sheds';
import { yarn } from './yarn';

/** What is photographed: a scene, one of its views, and how the negative is developed. */
export interface MadePhotograph {
  scene: string;
  /** The number of the view in the scene's file: another camera, light or hour. */
  view: number;
  upright?: boolean;
  /** Width (upright: height) of the rendered light in pixels, before the enlargement. */
  render?: number;
  /** Share of the height that is cut away at the foot. */
  foot?: number;
  /** Kept as a grey scan of an old print. */
  scan?: true;
  /** Kept also as a small 16-bit TIFF. */
  sixteen?: true;
  development: Omit<Development, 'width' | 'height'>;
}

/** The meshes of each scene, as declarations in the scene language. */
export const scenes: Record<string, () => string> = {
  quinces,
  boat,
  yarn,
  lanterns,
  bottles,
  sheds,
  reeds,
  chair,
};

const window: MadePhotograph['development'] = { balance: [1.06, 1, 0.93], contrast: 1, seed: 3 };

export const photographs: Record<string, MadePhotograph> = {
  'quinces-and-enamel-jug': { scene: 'quinces', view: 1, development: window },
  'two-quinces': { scene: 'quinces', view: 2, development: window },
  'jug-north-light': { scene: 'quinces', view: 3, upright: true, development: window },
  'ferry-boat-at-slack-water': {
    scene: 'boat',
    view: 1,
    development: { exposure: 0.5, bloom: [0.06, 0.05], seed: 5 },
  },
  'bow-and-warp': {
    scene: 'boat',
    view: 2,
    upright: true,
    development: { exposure: 0.5, bloom: [0.06, 0.05], seed: 6 },
  },
  'dyers-baskets': {
    scene: 'yarn',
    view: 1,
    foot: 0.1,
    development: { ...window, saturation: 1.05, seed: 7 },
  },
  'lantern-store': { scene: 'lanterns', view: 1, development: { ...window, seed: 8 } },
  'number-two-lantern': {
    scene: 'lanterns',
    view: 2,
    upright: true,
    render: 1080,
    development: { exposure: 0.3, bloom: [0.08, 0.06], seed: 9 },
  },
  'bottles-on-the-sill': {
    scene: 'bottles',
    render: 1000,
    view: 1,
    development: { exposure: 0.35, bloom: [0.08, 0.06], seed: 10 },
  },
  'squat-bottle': { scene: 'bottles', view: 2, development: { bloom: [0.08, 0.06], seed: 11 } },
  'four-sheds': {
    scene: 'sheds',
    view: 1,
    render: 1320,
    development: { exposure: 0.35, saturation: 0.88, seed: 12 },
  },
  'third-door': {
    scene: 'sheds',
    view: 2,
    upright: true,
    render: 1320,
    development: { exposure: 0.35, saturation: 0.88, seed: 13 },
  },
  'sheds-before-dark': { scene: 'sheds', view: 3, render: 1320, development: { saturation: 0.88, seed: 14 } },
  'weather-from-the-west': {
    scene: 'reeds',
    view: 1,
    render: 1260,
    development: { exposure: 0.5, seed: 15 },
  },
  'reeds-first-frost': {
    scene: 'reeds',
    view: 2,
    sixteen: true,
    render: 1260,
    development: { exposure: 0.2, seed: 16 },
  },
  'keepers-chair': {
    scene: 'chair',
    view: 1,
    upright: true,
    scan: true,
    development: { ...window, seed: 17 },
  },
};
