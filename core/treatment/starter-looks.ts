import { asLookHas, type Look } from './looks';
import { parseTreatment } from './schema';

/** The looks that ship: plain conversions, matte and gritty ones, baths, split tones, aged papers, faded tints. */

type Points = readonly (readonly [number, number])[];

const step = (kind: string, settings: object = {}, more: object = {}) => ({ kind, settings, ...more });
const luminance = step('mono', { method: 'luminance' });
const response = (of: object) => step('mono', { method: 'response', response: of });
const channels = (red: number, green: number, blue: number) =>
  step('mono', { method: 'channels', channels: { red, green, blue, constant: 0 } });
const apart = step('mono', { method: 'local-contrast' });
const curve = (...all: Points) => step('curve', { points: { all } });
const matte = (black: number, white: number) =>
  curve([0, black], [0.25, 0.22 + black / 2], [0.75, 0.77], [1, white]);
const firm = curve([0, 0], [0.25, 0.19], [0.75, 0.81], [1, 1]);
const bath = (toner: string, time: number, start: string, contrast = 0) => ({ toner, time, start, contrast });
const baths = (...row: object[]) => step('baths', { baths: row });
const onPaper = (age: number, ...row: object[]) => step('baths', { baths: row, paper: { age } });
const split = (
  [dark, darkSaturation]: readonly [number, number],
  [light, lightSaturation]: readonly [number, number],
  balance = 0,
) =>
  step('split-tone', {
    shadows: { hue: dark, saturation: darkSaturation },
    highlights: { hue: light, saturation: lightSaturation },
    balance,
  });
const tint = (hue: number, saturation: number) => step('tint', { hue, saturation });
const corners = (amount: number, size = 0.62) => step('vignette', { amount, size, feather: 0.8 });
const grain = (amount: number, character = 'classic', size = 0.5) =>
  step('grain', { amount, character, size });

const list: { group: string; looks: Record<string, readonly object[]> }[] = [
  {
    group: 'Plain conversions',
    looks: {
      'As the eye sees it': [luminance],
      'Sky held down': [response({ blue: -0.55, cyan: -0.35, orange: 0.15, yellow: 0.2 }), firm],
      'Skin and brick lifted': [response({ red: 0.3, orange: 0.4, yellow: 0.15, blue: -0.15 })],
      'Green glass': [channels(0.15, 0.75, 0.1)],
      'Old plate': [channels(0.02, 0.28, 0.7), matte(0.02, 0.98)],
      'Colours kept apart': [apart],
    },
  },
  {
    group: 'Matte and gritty',
    looks: {
      'Soft matte': [luminance, matte(0.09, 0.95)],
      'Chalk and slate': [luminance, matte(0.13, 0.9), grain(0.12, 'soft')],
      Gritty: [
        response({ blue: -0.2, orange: 0.15 }),
        step('local-contrast', { coarse: 0.25, medium: 0.45, fine: 0.3 }, { stage: 'tone' }),
        firm,
        corners(-0.25),
        grain(0.4, 'coarse'),
      ],
      'Night quay': [
        luminance,
        curve([0, 0], [0.3, 0.14], [0.7, 0.58], [1, 0.93]),
        corners(-0.45, 0.5),
        grain(0.25),
      ],
      'Mist on the water': [
        luminance,
        matte(0.16, 0.97),
        step('glow', { amount: 0.35, radius: 0.02 }),
        grain(0.08, 'fine'),
      ],
    },
  },
  {
    group: 'Sepia',
    looks: {
      'Sepia, light': [luminance, baths(bath('sepia', 0.35, 'highlights'))],
      'Sepia, full': [luminance, baths(bath('sepia', 1, 'highlights'))],
      'Sepia over copper': [
        luminance,
        baths(bath('sepia', 0.45, 'highlights'), bath('copper', 0.5, 'shadows')),
      ],
      'Drawer print': [
        luminance,
        matte(0.08, 0.93),
        baths(bath('sepia', 0.7, 'highlights')),
        tint(42, 0.1),
        corners(-0.2),
      ],
    },
  },
  {
    group: 'Selenium and gold',
    looks: {
      'Selenium, short': [luminance, firm, baths(bath('selenium', 0.4, 'shadows'))],
      'Selenium, full': [luminance, firm, baths(bath('selenium', 1, 'shadows'))],
      'Gold, cool lights': [luminance, baths(bath('gold', 0.6, 'highlights'))],
      'Selenium and gold': [
        luminance,
        baths(bath('selenium', 0.5, 'shadows'), bath('gold', 0.6, 'highlights')),
      ],
      'Sepia and gold': [
        luminance,
        firm,
        baths(bath('sepia', 0.7, 'highlights'), bath('gold', 1, 'shadows')),
      ],
    },
  },
  {
    group: 'Split tones',
    looks: {
      'Warm brown': [
        luminance,
        matte(0.05, 0.97),
        split([18, 0.26], [42, 0.3], 0.06),
        corners(-0.28),
        grain(0.18),
      ],
      'Harbour cold': [luminance, split([218, 0.32], [43, 0.3]), corners(-0.15)],
      'Warm and cool': [luminance, firm, split([226, 0.2], [38, 0.32], -0.06)],
      'Plum and straw': [luminance, matte(0.04, 0.98), split([318, 0.22], [48, 0.28])],
      'Moss and cream': [luminance, split([135, 0.16], [45, 0.26], 0.08)],
    },
  },
  {
    group: 'Cold',
    looks: {
      'Iron blue': [luminance, baths(bath('iron-blue', 0.7, 'even'))],
      'Blue shadows': [luminance, baths(bath('iron-blue', 0.6, 'shadows', 0.3))],
      'Winter silver': [luminance, firm, tint(214, 0.08)],
    },
  },
  {
    group: 'Aged and tinted',
    looks: {
      'Sun on the wall': [luminance, matte(0.1, 0.94), tint(47, 0.18), corners(0.12), grain(0.1, 'soft')],
      'Aged paper': [luminance, matte(0.06, 0.96), onPaper(0.7)],
      'Old album brown': [
        luminance,
        matte(0.08, 0.95),
        onPaper(0.9, bath('copper', 0.4, 'even')),
        corners(-0.15),
      ],
      'Tea stained': [luminance, matte(0.05, 0.94), tint(32, 0.24)],
      Graphite: [luminance, matte(0.07, 0.92), tint(220, 0.04), grain(0.15, 'fine')],
      'Lamp light': [
        luminance,
        curve([0, 0.02], [0.5, 0.47], [1, 0.96]),
        split([16, 0.3], [36, 0.46], 0.1),
        step('glow', { amount: 0.2, radius: 0.018 }),
        corners(-0.35),
      ],
      'Tinted, long faded': [
        step('saturation', { amount: -0.72, spare: 0 }),
        curve([0, 0.12], [0.5, 0.53], [1, 0.93]),
        tint(40, 0.08),
        grain(0.1, 'soft'),
      ],
      'Rose hour': [luminance, matte(0.06, 0.96), split([342, 0.2], [16, 0.28])],
    },
  },
];

let read: Look[] | undefined;

/** The starter set; read when it is first asked for. */
export const starterLooks = (): readonly Look[] =>
  (read ??= list.flatMap(({ group, looks }) =>
    Object.entries(looks).map(([name, steps]) => ({
      name,
      group,
      treatment: asLookHas(parseTreatment({ format: 'lampwash-treatment', version: 1, steps })),
    })),
  ));
