import { starterBox } from '../core/colour/pigments';
import type { Stroke } from '../core/settings/fields';
import { stroke, type Place } from './stroke';
import { bareTreatment, type Treatment } from '../core/treatment/treatment';
import { parseTreatment } from '../core/treatment/schema';

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

/** A row of the brush that keeps to edges. */
const along = (radius: number, keepEdges: number, ...places: Place[]): Stroke => ({
  ...stroke(radius, ...places),
  hardness: 0.55,
  keepEdges,
});
/** A rough stroke on a thing that is to be found, or beside it. */
const rough = (...places: Place[]) => stroke(0.008, ...places);
const fine = (...places: Place[]) => stroke(0.003, ...places);

const found = (strokesIn: Stroke[], strokesOut: Stroke[] = []) => ({
  kind: 'found',
  op: 'add',
  strokesIn,
  strokesOut,
});
const painted = (...strokes: Stroke[]) => ({ kind: 'brush', op: 'add', strokes });
/** Areas whose strokes spread against one another, as far as those of the others let them; and what is left as it is. */
const spreading = (areas: Record<string, Stroke[]>, left: Stroke[] = [], shape: object = {}) =>
  Object.entries(areas).map(([name, strokesIn]) => ({
    id: name.toLowerCase(),
    name,
    ...shape,
    parts: [
      found(strokesIn, [
        ...Object.entries(areas).flatMap(([other, all]) => (other === name ? [] : all)),
        ...left,
      ]),
    ],
  }));

const pigment = (name: string) => starterBox.find(p => p.name === name)!;
const wash = (name: string, of: string, mask: string, strength: number) => ({
  kind: 'wash',
  name,
  mask,
  strength,
  settings: { pigment: pigment(of).pigment, depth: pigment(of).depth },
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
        fringe: 0.002,
        parts: [
          found(
            [rough([0.14, 0.61], [0.19, 0.57], [0.24, 0.61], [0.24, 0.67], [0.19, 0.7], [0.14, 0.66])],
            [
              rough([0.2, 0.5], [0.28, 0.54], [0.3, 0.64], [0.28, 0.71], [0.2, 0.75], [0.13, 0.72]),
              fine([0.15, 0.52], [0.125, 0.59]),
            ],
          ),
          found(
            [rough([0.105, 0.5], [0.07, 0.57], [0.1, 0.53], [0.12, 0.56], [0.09, 0.62], [0.07, 0.6])],
            [
              rough([0.03, 0.5], [0.02, 0.58], [0.04, 0.66], [0.1, 0.68]),
              rough([0.04, 0.44], [0.08, 0.43], [0.15, 0.46], [0.17, 0.5]),
              rough([0.2, 0.59], [0.16, 0.63]),
            ],
          ),
          found(
            [
              rough(
                [0.84, 0.69],
                [0.86, 0.64],
                [0.9, 0.62],
                [0.93, 0.67],
                [0.92, 0.72],
                [0.88, 0.75],
                [0.85, 0.72],
              ),
            ],
            [
              rough(
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
          ),
        ],
      },
      {
        id: 'stripes',
        name: 'Stripes',
        parts: [
          painted(
            along(0.021, 0.9, [0.45, 0.668], [0.481, 0.74], [0.5, 0.82], [0.51, 0.9], [0.513, 1.02]),
            along(0.0065, 0.9, [0.484, 0.664], [0.515, 0.72], [0.534, 0.79], [0.548, 0.88], [0.554, 1.02]),
          ),
        ],
      },
      {
        id: 'rim',
        name: 'Rim',
        parts: [
          painted(
            along(0.008, 0.7, [0.529, 0.155], [0.6, 0.146], [0.67, 0.142], [0.7, 0.132], [0.739, 0.11]),
          ),
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
    wash('Planks', 'Plank', 'planks', 0.45),
    corners,
    grain,
  ],
  {
    masks: [
      { id: 'sky', name: 'Sky', parts: [{ kind: 'linear', op: 'add', from: [0.5, 0.02], to: [0.5, 0.3] }] },
      ...spreading(
        {
          Band: [
            stroke(
              0.005,
              [0.1, 0.562],
              [0.22, 0.578],
              [0.37, 0.589],
              [0.48, 0.586],
              [0.59, 0.568],
              [0.69, 0.534],
              [0.765, 0.482],
            ),
          ],
          Planks: [stroke(0.006, [0.125, 0.62], [0.3, 0.635], [0.48, 0.637], [0.63, 0.615], [0.735, 0.575])],
        },
        [
          rough([0.05, 0.5], [0.04, 0.62], [0.15, 0.7], [0.4, 0.72], [0.65, 0.7], [0.8, 0.62], [0.82, 0.45]),
          rough([0.1, 0.48], [0.3, 0.5], [0.55, 0.48], [0.7, 0.43]),
          stroke(0.004, [0.2, 0.535], [0.4, 0.545], [0.6, 0.52]),
        ],
      ),
    ],
  },
);

/** The grey scan in colour again: a few strokes of each pigment, spread to the edges of what they lie on. */
const recolouredChair = treatment(
  [
    matte(0.04),
    wash('Wall', 'Water', 'wall', 0.5),
    wash('Floor', 'Plank', 'floor', 0.75),
    wash('Chair', 'Plank', 'chair', 0.9),
    wash('Shawl', 'Oxide', 'shawl', 0.8),
    wash('Seat', 'Linen', 'seat', 0.7),
    wash('Stove', 'Iron', 'stove', 0.7),
    wash('Hearth', 'Stone', 'hearth', 0.7),
    corners,
  ],
  {
    masks: spreading(
      {
        Wall: [
          rough([0.1, 0.55], [0.15, 0.1], [0.4, 0.15], [0.6, 0.1], [0.58, 0.4], [0.565, 0.6]),
          rough([0.88, 0.1], [0.9, 0.4], [0.92, 0.6]),
          fine([0.385, 0.535], [0.48, 0.535]),
        ],
        Floor: [
          rough(
            [0.56, 0.66],
            [0.56, 0.7],
            [0.52, 0.76],
            [0.45, 0.745],
            [0.5, 0.83],
            [0.92, 0.86],
            [0.9, 0.93],
            [0.2, 0.9],
            [0.07, 0.8],
            [0.07, 0.67],
            [0.16, 0.66],
          ),
          fine([0.24, 0.67], [0.33, 0.68], [0.33, 0.72], [0.24, 0.71]),
        ],
        Shawl: [rough([0.4, 0.36], [0.48, 0.38], [0.4, 0.42], [0.48, 0.46], [0.42, 0.48])],
        Seat: [fine([0.26, 0.563], [0.38, 0.552], [0.44, 0.56], [0.38, 0.572])],
        Stove: [
          rough([0.68, 0.47], [0.78, 0.5], [0.68, 0.56], [0.78, 0.62], [0.7, 0.67]),
          rough([0.73, 0.06], [0.73, 0.34]),
        ],
        Chair: [
          fine([0.528, 0.345], [0.52, 0.5], [0.505, 0.72]),
          fine([0.203, 0.74], [0.2, 0.575], [0.39, 0.588], [0.397, 0.77]),
        ],
        Hearth: [rough([0.57, 0.715], [0.6, 0.78], [0.75, 0.79], [0.93, 0.795], [0.86, 0.74])],
      },
      [],
      { fringe: 0.002 },
    ),
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
      takes: [
        { name: 'Aged paper', treatment: aged },
        { name: 'Recoloured', treatment: recolouredChair },
        greySeries,
      ],
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
