import { starterBox } from '../core/colour/pigments';
import { bareTreatment, parseTreatment, type Treatment } from '../core/treatment/schema';

/** A series of the demo: what hangs in it, in order, each photograph with its takes, the last the current one. */
export interface DemoSeries {
  title: string;
  caption: string;
  /** The title of the photograph on the cover. */
  cover: string;
  /** The look that it shares: takes of its name follow it. */
  shared?: { name: string; treatment: Treatment };
  pictures: { file: string; title: string; takes: { treatment: Treatment; name: string }[] }[];
}

const treatment = (steps: object[], more: object = {}): Treatment =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, ...more });

/** The conversion that holds the series together: blues held down, what is painted kept apart. */
const mono = (response: object = {}) => ({
  kind: 'mono',
  settings: {
    method: 'response',
    response: { blue: -0.3, cyan: -0.15, orange: 0.2, yellow: 0.15, ...response },
  },
});
const matte = (black = 0.05, white = 0.97) => ({
  kind: 'curve',
  settings: {
    points: {
      all: [
        [0, black],
        [0.25, 0.22 + black / 2],
        [0.75, 0.78],
        [1, white],
      ],
    },
  },
});
/** The split tone of the series: brown darks, lights of warm paper. */
const ferrySplit = (strength = 0.8, balance = 0.06) => ({
  kind: 'split-tone',
  strength,
  settings: {
    shadows: { hue: 18, saturation: 0.26 },
    highlights: { hue: 42, saturation: 0.3 },
    balance,
    crossover: 0.46,
  },
});
const grain = { kind: 'grain', settings: { amount: 0.18, character: 'classic' } };
const corners = { kind: 'vignette', settings: { amount: -0.28, size: 0.62, feather: 0.8 } };
/** What the series shares; the response of its conversion is each photograph's own. */
const FERRY_BROWN = 'Ferry brown';
const afterMono = [matte(), ferrySplit(), corners, grain];
const toned = (extra: object[] = [], response: object = {}) =>
  treatment([...extra, mono(response), ...afterMono]);
const plain = (response: object = {}) => ({ name: 'Plain', treatment: treatment([mono(response)]) });
const series = (response: object = {}, extra: object[] = []) => ({
  name: FERRY_BROWN,
  treatment: toned(extra, response),
});
/** The same of a grey scan, which has no colour to be turned to mono. */
const greySeries = { name: FERRY_BROWN, treatment: treatment(afterMono) };
const colour = { name: 'Colour', treatment: bareTreatment() };

/** A row of the brush through points in fractions of the photograph, its middle along them. */
const stroke = (radius: number, ...points: [number, number][]) => ({
  points: points.map(([x, y]) => [x, y, 1]),
  radius,
  hardness: 0.55,
});
const oval = (x: number, y: number, across: number, down: number) => ({
  kind: 'oval',
  op: 'add',
  centre: [x, y],
  radii: [across, down],
  feather: 0.14,
});
const pigment = (name: string) => starterBox.find(p => p.name === name)!;
const wash = (name: string, of: string, mask: string, strength: number) => ({
  kind: 'wash',
  name,
  mask,
  strength,
  settings: { pigment: pigment(of).pigment, depth: pigment(of).depth, bleed: 0.0015 },
});

/** Hand-tinted: the fruit, the stripes of the cloth, the jug's rim, over a warm print. */
const tintedQuinces = treatment(
  [
    mono({ yellow: 0.3 }),
    matte(0.05),
    ferrySplit(0.4),
    wash('Quinces', 'Quince', 'fruit', 0.7),
    wash('Stripes', 'Ferry blue', 'stripes', 0.6),
    wash('Rim', 'Ferry blue', 'rim', 0.7),
    corners,
    grain,
  ],
  {
    masks: [
      {
        id: 'fruit',
        name: 'Fruit',
        parts: [
          oval(0.101, 0.578, 0.061, 0.07),
          oval(0.195, 0.63, 0.083, 0.073),
          oval(0.885, 0.682, 0.071, 0.068),
        ],
      },
      {
        id: 'stripes',
        name: 'Stripes',
        parts: [
          {
            kind: 'brush',
            op: 'add',
            strokes: [
              stroke(0.0165, [0.45, 0.668], [0.481, 0.74], [0.5, 0.82], [0.51, 0.9], [0.513, 1.02]),
              stroke(0.0055, [0.481, 0.664], [0.512, 0.72], [0.531, 0.79], [0.545, 0.88], [0.552, 1.02]),
            ],
          },
        ],
      },
      {
        id: 'rim',
        name: 'Rim',
        parts: [
          {
            kind: 'brush',
            op: 'add',
            strokes: [
              stroke(0.0045, [0.529, 0.155], [0.6, 0.146], [0.67, 0.142], [0.7, 0.132], [0.739, 0.11]),
            ],
          },
        ],
      },
    ],
  },
);

/** Hand-tinted: the painted band and the planks of the boat, and dusk in the sky. */
const tintedBoat = treatment(
  [
    mono({ cyan: -0.35 }),
    matte(0.06),
    ferrySplit(0.35),
    wash('Dusk', 'Dusk', 'sky', 0.4),
    wash('Band', 'Ferry blue', 'band', 0.75),
    wash('Planks', 'Plank', 'planks', 0.35),
    corners,
    grain,
  ],
  {
    masks: [
      { id: 'sky', name: 'Sky', parts: [{ kind: 'linear', op: 'add', from: [0.5, 0.02], to: [0.5, 0.3] }] },
      {
        id: 'band',
        name: 'Band',
        parts: [
          {
            kind: 'brush',
            op: 'add',
            strokes: [
              stroke(
                0.0155,
                [0.1, 0.562],
                [0.22, 0.578],
                [0.37, 0.589],
                [0.48, 0.586],
                [0.59, 0.568],
                [0.69, 0.534],
                [0.765, 0.482],
              ),
            ],
          },
        ],
      },
      {
        id: 'planks',
        name: 'Planks',
        parts: [
          {
            kind: 'brush',
            op: 'add',
            strokes: [
              stroke(0.022, [0.125, 0.62], [0.3, 0.635], [0.48, 0.637], [0.63, 0.615], [0.735, 0.575]),
            ],
          },
          { kind: 'mask', op: 'subtract', mask: 'band' },
        ],
      },
    ],
  },
);

const lit = (settings: object) => ({ kind: 'light', settings });

const dyers = treatment([
  mono({ red: 0.25, green: -0.1, purple: 0.2 }),
  {
    kind: 'gradient-map',
    strength: 0.87,
    settings: {
      stops: [
        { at: 0, colour: '#14181d' },
        { at: 0.48, colour: '#7d6a58' },
        { at: 1, colour: '#f6ead2' },
      ],
      interpolation: 'oklab',
    },
  },
]);

const baths = treatment([
  mono(),
  matte(0.03),
  {
    kind: 'baths',
    settings: {
      baths: [
        { toner: 'sepia', time: 0.4, start: 'highlights' },
        { toner: 'selenium', time: 0.7, start: 'shadows' },
      ],
      paper: { colour: '#fbf6ea', age: 0.1 },
    },
  },
  grain,
]);

const aged = treatment([
  matte(0.06, 0.94),
  {
    kind: 'baths',
    settings: {
      baths: [{ toner: 'sepia', time: 0.55, start: 'highlights' }],
      paper: { colour: '#f4e6c8', age: 0.6 },
    },
  },
]);

const cold = treatment([
  mono(),
  {
    kind: 'baths',
    settings: { baths: [{ toner: 'iron-blue', time: 0.45, start: 'shadows' }] },
  },
  grain,
]);

const selenium = treatment([
  mono({ orange: -0.1, yellow: 0.3 }),
  { kind: 'baths', settings: { baths: [{ toner: 'selenium', time: 0.8, start: 'shadows' }] } },
  corners,
  grain,
]);

export const saltmarshFerry: DemoSeries = {
  title: 'Saltmarsh Ferry',
  caption: 'The last season of the hand ferry, and the house on the north bank.',
  cover: 'Ferry boat at slack water',
  shared: { name: FERRY_BROWN, treatment: toned() },
  pictures: [
    {
      file: 'ferry-boat-at-slack-water.jpg',
      title: 'Ferry boat at slack water',
      takes: [colour, plain(), { name: 'Hand-tinted', treatment: tintedBoat }, series({ cyan: -0.35 })],
    },
    { file: 'bow-and-warp.jpg', title: 'Bow and warp', takes: [colour] },
    {
      file: 'weather-from-the-west.jpg',
      title: 'Weather from the west',
      takes: [
        plain({ yellow: 0.35 }),
        series({ yellow: 0.35 }, [{ kind: 'local-contrast', settings: { coarse: 0.25 } }]),
      ],
    },
    { file: 'four-sheds.jpg', title: 'Four sheds', takes: [plain(), series()] },
    {
      file: 'third-door.jpg',
      title: 'Third door',
      takes: [{ name: 'Selenium', treatment: selenium }, series()],
    },
    { file: 'sheds-before-dark.jpg', title: 'Sheds before dark', takes: [series()] },
    {
      file: 'quinces-and-enamel-jug.jpg',
      title: 'Quinces and enamel jug',
      takes: [
        plain(),
        { name: 'Sepia, then selenium', treatment: baths },
        { name: 'Hand-tinted', treatment: tintedQuinces },
        series(),
      ],
    },
    {
      file: 'lantern-store.jpg',
      title: 'Lantern store',
      takes: [plain({ red: 0.3 }), series({ red: 0.3, green: 0.15 }, [lit({ exposure: 0.25 })])],
    },
    {
      file: 'bottles-on-the-sill.jpg',
      title: 'Bottles on the sill',
      takes: [plain({ blue: 0.2 }), series({ blue: 0.15 })],
    },
    {
      file: 'dyers-baskets.jpg',
      title: 'Dyer’s baskets',
      takes: [plain(), { name: 'Three stops', treatment: dyers }, series()],
    },
    {
      file: 'keepers-chair.jpg',
      title: 'The keeper’s chair',
      takes: [{ name: 'Aged paper', treatment: aged }, greySeries],
    },
    {
      file: 'reeds-first-frost.jpg',
      title: 'Reeds, first frost',
      takes: [{ name: 'Cold', treatment: cold }],
    },
  ],
};

/** Charts for judging a step on every hue and tone. */
export const charts: DemoSeries = {
  title: 'Test charts',
  caption: 'Every hue, every tone, and fine detail: for judging a step and building a look.',
  cover: 'Many colours',
  pictures: [
    { file: 'many-colours.png', title: 'Many colours', takes: [plain(), colour] },
    { file: 'tones-and-fine-detail.png', title: 'Tones and fine detail', takes: [colour] },
  ],
};
