import type { Kind } from '../core/steps';

/** One picture a step kind for the docs: the same photograph with a control at its lower end, as it is set out, and at its upper end. */
export interface ControlSample {
  /** What is moved, and what is written under each of the three. */
  control: string;
  says: [low: string, usual: string, high: string];
  settings: [low: object, usual: object, high: object];
  photograph: string;
  /** Steps beneath, so that it is seen. */
  beneath?: object[];
  /** How it is laid on, where that is not as usual. */
  laid?: object;
  /** Seen at natural size, about this place (fractions). */
  natural?: [number, number];
}

const mono = { kind: 'mono' };
const sheds = 'sheds-before-dark.jpg';
const boat = 'ferry-boat-at-slack-water.jpg';
const quinces = 'quinces-and-enamel-jug.jpg';
const chair = 'keepers-chair.jpg';
const lanterns = 'lantern-store.jpg';

/** A number from its lower end over its default to its upper end. */
const along = (
  control: string,
  low: number,
  usual: number,
  high: number,
  of: (v: number) => object,
  shownTimes = 100,
): Pick<ControlSample, 'control' | 'says' | 'settings'> => ({
  control,
  says: [low, usual, high].map(
    v => `${v > 0 && low < 0 ? '+' : ''}${Math.round(v * shownTimes * 100) / 100}`,
  ) as [string, string, string],
  settings: [of(low), of(usual), of(high)],
});

const oval = { mask: 'm' };
/** The area that steps with `mask: 'm'` lie on. */
export const sampleMasks = [
  {
    id: 'm',
    name: 'Oval',
    parts: [{ kind: 'oval', centre: [0.62, 0.5], radii: [0.24, 0.24], feather: 0.3 }],
  },
];

const samples: Partial<Record<Kind, ControlSample>> = {
  light: { ...along('Exposure', -2, 0, 2, exposure => ({ exposure }), 1), photograph: boat },
  'white-balance': { ...along('Warmth', -1, 0, 1, warmth => ({ warmth })), photograph: boat },
  'local-contrast': { ...along('Medium', -1, 0, 1, medium => ({ medium })), photograph: sheds },
  saturation: { ...along('Amount', -1, 0, 1, amount => ({ amount })), photograph: sheds },
  'colour-bands': {
    ...along('Red hue', -1, 0, 1, hue => ({ red: { hue, saturation: 0, lightness: 0 } })),
    photograph: sheds,
  },
  inks: {
    ...along('Highlights, yellow', -1, 0, 1, y => ({ tones: { lights: { y } } })),
    photograph: quinces,
    beneath: [mono],
  },
  'three-way-balance': {
    ...along('Shadows, blue, amount', 0, 0.3, 1, amount => ({ shadows: { hue: 220, amount } })),
    photograph: quinces,
    beneath: [mono],
  },
  mono: {
    ...along('Response, red', -1, 0, 1, red => ({ method: 'response', response: { red } })),
    photograph: lanterns,
  },
  curve: {
    control: 'The dark end',
    says: ['pulled down', 'straight', 'lifted'],
    settings: [
      {
        points: {
          all: [
            [0, 0],
            [0.35, 0.18],
            [1, 1],
          ],
        },
      },
      {},
      {
        points: {
          all: [
            [0, 0.14],
            [0.35, 0.42],
            [1, 0.96],
          ],
        },
      },
    ],
    photograph: boat,
    beneath: [mono],
  },
  levels: {
    ...along('Gamma', 0.4, 1, 2.5, gamma => ({ gamma }), 1),
    photograph: quinces,
    beneath: [mono],
  },
  tint: {
    ...along('Saturation', 0, 0.2, 1, saturation => ({ hue: 35, saturation })),
    photograph: boat,
    beneath: [mono],
  },
  'split-tone': {
    ...along('Balance', -1, 0, 1, balance => ({
      balance,
      shadows: { hue: 220, saturation: 0.45 },
      highlights: { hue: 40, saturation: 0.45 },
    })),
    photograph: quinces,
    beneath: [mono],
  },
  baths: {
    ...along('Sepia, time', 0.1, 0.5, 1, time => ({
      baths: [{ toner: 'sepia', time, start: 'highlights' }],
    })),
    photograph: chair,
    beneath: [mono],
  },
  'gradient-map': {
    control: 'The middle stop',
    says: ['dark', 'in the middle', 'light'],
    settings: [0.25, 0.5, 0.75].map(at => ({
      stops: [
        { at: 0, colour: '#14181d' },
        { at, colour: '#7d6a58' },
        { at: 1, colour: '#f6ead2' },
      ],
      interpolation: 'oklab',
    })) as [object, object, object],
    photograph: quinces,
  },
  filter: {
    ...along('Density', 0, 0.5, 1, density => ({ density, keepLightness: false })),
    photograph: boat,
    beneath: [mono],
  },
  'colour-table': {
    ...along('Saturation', -1, 0, 1, saturation => ({ table: 't', saturation })),
    photograph: boat,
  },
  wash: {
    ...along('Depth', -1, 0, 1, depth => ({ pigment: { kind: 'flat', colour: '#8c3f2c' }, depth })),
    photograph: chair,
    beneath: [mono],
    laid: oval,
  },
  'keep-colour': {
    ...along('Saturation', -1, 0, 1, saturation => ({ saturation })),
    photograph: sheds,
    beneath: [mono],
    laid: oval,
  },
  'local-light': {
    ...along('Exposure', -2, 0, 2, exposure => ({ exposure }), 1),
    photograph: sheds,
    laid: oval,
  },
  glow: {
    ...along('Amount', 0, 0.4, 1, amount => ({ amount, radius: 0.02 })),
    photograph: lanterns,
  },
  sharpen: {
    ...along('Amount', 0, 1, 4, amount => ({ amount, radius: 0.0008 })),
    photograph: quinces,
    natural: [0.3, 0.62],
  },
  vignette: { ...along('Amount', -1, 0, 1, amount => ({ amount })), photograph: boat, beneath: [mono] },
  grain: {
    ...along('Amount', 0, 0.3, 1, amount => ({ amount, character: 'classic' })),
    photograph: quinces,
    beneath: [mono],
    natural: [0.5, 0.3],
  },
};

/** The sample of a kind. Throws a RangeError for one that has none yet. */
export function sampleOf(kind: Kind): ControlSample {
  const sample = samples[kind];
  if (!sample) throw new RangeError(`demo/controls.ts has no sample of ${kind}`);
  return sample;
}

/** The colour table that the sample of a colour table uses: warm lights, green darks. */
export const SAMPLE_TABLE = [
  'TITLE "Warm lights, green darks"',
  'LUT_3D_SIZE 2',
  '0.02 0.07 0.05',
  '0.9 0.15 0.1',
  '0.1 0.75 0.2',
  '0.98 0.9 0.4',
  '0.05 0.12 0.6',
  '0.85 0.2 0.65',
  '0.2 0.8 0.75',
  '1 0.96 0.86',
].join('\n');
