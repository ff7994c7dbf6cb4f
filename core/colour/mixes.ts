import type { Triple } from './oklab';

/**
 * Mixes (blend modes) of an opaque colour laid on an opaque colour, on encoded values.
 * Source: W3C Compositing and Blending Level 1, sections 9.1 and 9.2; `average` is our own.
 */

type Channel = (beneath: number, own: number) => number;

const multiply: Channel = (b, s) => b * s;
const screen: Channel = (b, s) => b + s - b * s;
const hardLight: Channel = (b, s) => (s <= 0.5 ? multiply(b, 2 * s) : screen(b, 2 * s - 1));

const separable = {
  multiply,
  screen,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (b, s) => (b === 0 ? 0 : s >= 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b, s) => (b >= 1 ? 1 : s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': hardLight,
  'soft-light': (b, s) => {
    if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
    const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
    return b + (2 * s - 1) * (d - b);
  },
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
} satisfies Record<string, Channel>;

/** Luma with the weights that the W3C formulas use for the non-separable modes. */
const lum = (c: Triple) => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
const sat = (c: Triple) => Math.max(c[0], c[1], c[2]) - Math.min(c[0], c[1], c[2]);

function setLum(c: Triple, l: number): void {
  const d = l - lum(c);
  for (let i = 0; i < 3; i++) c[i] += d;
  const level = lum(c);
  const least = Math.min(c[0], c[1], c[2]);
  const most = Math.max(c[0], c[1], c[2]);
  if (least < 0) for (let i = 0; i < 3; i++) c[i] = level + ((c[i] - level) * level) / (level - least);
  if (most > 1) for (let i = 0; i < 3; i++) c[i] = level + ((c[i] - level) * (1 - level)) / (most - level);
}

function setSat(c: Triple, s: number): void {
  const least = Math.min(c[0], c[1], c[2]);
  const span = Math.max(c[0], c[1], c[2]) - least;
  for (let i = 0; i < 3; i++) c[i] = span > 0 ? ((c[i] - least) * s) / span : 0;
}

type Whole = (beneath: Triple, own: Triple) => void;

/** Each leaves its result in `own`. */
const whole = {
  hue: (b, s) => {
    setSat(s, sat(b));
    setLum(s, lum(b));
  },
  saturation: (b, s) => {
    const amount = sat(s);
    s.set(b);
    setSat(s, amount);
    setLum(s, lum(b));
  },
  color: (b, s) => setLum(s, lum(b)),
  luminosity: (b, s) => {
    const level = lum(s);
    s.set(b);
    setLum(s, level);
  },
} satisfies Record<string, Whole>;

export const mixNames = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
  'average',
] as const;
export type Mix = (typeof mixNames)[number];

/** Whether a mix leaves the tones beneath as they are and changes their colour alone. */
export const keepsTones = (mix: Mix): boolean => mix === 'color' || mix === 'hue' || mix === 'saturation';

const clip = (v: number) => Math.min(1, Math.max(0, v));

/**
 * The mix as a function that turns `own` into the mixed colour. Colours beyond 0..1 are clipped first,
 * since the formulas hold inside only; `normal` and `average` leave them.
 */
export function mixer(mix: Mix): Whole {
  if (mix === 'normal') return () => undefined;
  if (mix === 'average') {
    return (b, s) => {
      for (let i = 0; i < 3; i++) s[i] = (b[i] + s[i]) / 2;
    };
  }
  const base = new Float64Array(3);
  if (mix in separable) {
    const channel = separable[mix as keyof typeof separable];
    return (b, s) => {
      for (let i = 0; i < 3; i++) s[i] = channel(clip(b[i]), clip(s[i]));
    };
  }
  const blend = whole[mix as keyof typeof whole];
  return (b, s) => {
    for (let i = 0; i < 3; i++) {
      base[i] = clip(b[i]);
      s[i] = clip(s[i]);
    }
    blend(base, s);
  };
}
