import { describe, expect, it } from 'vitest';
import { rgbToOklab } from '../core/colour/oklab';
import type { Kind } from '../core/steps';
import { paint, rendered, read } from '../core/testing/pictures';

/** Sentences that say which way a control goes are true of what it does. */

const [WIDTH, HEIGHT] = [48, 32];
/** A grey ramp above; red, blue and green things below, of a dull and of a vivid kind. */
const scene = paint(WIDTH, HEIGHT, (x, y) => {
  if (y < 0.5) return [x, x, x];
  const vivid = y < 0.75 ? 0.15 : 0.45;
  return x < 1 / 3 ? [0.5 + vivid, 0.5, 0.5] : x < 2 / 3 ? [0.5, 0.5, 0.5 + vivid] : [0.5, 0.5 + vivid, 0.5];
});

type Place = 'dark' | 'middle' | 'light' | 'red' | 'blue' | 'vivid red' | 'corner' | 'amid';
const places: Record<Place, [x: number, y: number]> = {
  dark: [6, 5],
  middle: [24, 5],
  light: [42, 5],
  red: [8, 19],
  blue: [24, 19],
  'vivid red': [8, 28],
  corner: [46, 1],
  amid: [24, 14],
};

/** OKLab of a place under a step. */
interface Lab {
  L: number;
  a: number;
  b: number;
}

function lab(kind: Kind, settings: object, place: Place): Lab {
  const { codes } = rendered(read([{ id: 'one', kind, settings }]), scene, { pixels: 1 });
  const [x, y] = places[place];
  const c = Float64Array.from({ length: 3 }, (_, k) => codes[(y * WIDTH + x) * 3 + k] / 65535);
  rgbToOklab(c);
  return { L: c[0], a: c[1], b: c[2] };
}
const chroma = ({ a, b }: { a: number; b: number }) => Math.hypot(a, b);

/** With the one setting the number is larger than with the other. */
const larger: [
  says: string,
  kind: Kind,
  of: (seen: Lab) => number,
  place: Place,
  more: object,
  less: object,
][] = [
  ['exposure: more light', 'light', c => c.L, 'middle', { exposure: 1 }, {}],
  ['brightness lifts the middle', 'light', c => c.L, 'middle', { brightness: 0.5 }, {}],
  ['contrast draws tones apart', 'light', c => c.L, 'light', { contrast: 0.5 }, {}],
  ['highlights: to the left held', 'light', c => c.L, 'light', {}, { highlights: -0.8 }],
  ['shadows: to the right opened', 'light', c => c.L, 'dark', { shadows: 0.8 }, {}],
  ['whites: to the right lights reach white', 'light', c => c.L, 'light', { whites: 0.8 }, {}],
  ['blacks: to the left darks reach black', 'light', c => c.L, 'dark', {}, { blacks: -0.8 }],
  ['gamma above 1 lifts the middle', 'light', c => c.L, 'middle', { gamma: 1.5 }, {}],
  ['offset adds light to the darks', 'light', c => c.L, 'dark', { offset: 0.2 }, {}],
  ['warmth: to the right yellow', 'white-balance', c => c.b, 'middle', { warmth: 0.5 }, {}],
  ['tint: to the right magenta', 'white-balance', c => c.a, 'middle', { tint: 0.5 }, {}],
  ['haze is taken off to the right', 'local-contrast', c => -c.L, 'dark', { haze: 0.8 }, {}],
  ['saturation: to the left grey', 'saturation', chroma, 'red', {}, { amount: -1 }],
  [
    'spare leaves the vivid alone',
    'saturation',
    c => -chroma(c),
    'vivid red',
    { amount: 0.5, spare: 1 },
    { amount: 0.5 },
  ],
  [
    'lightness of a hue',
    'colour-bands',
    c => c.L,
    'red',
    { red: { hue: 0, saturation: 0, lightness: 0.5 } },
    {},
  ],
  [
    'cyan ink is away from red',
    'inks',
    c => -c.a,
    'middle',
    { tones: { middles: { c: 0.8, m: 0, y: 0, k: 0 } } },
    {},
  ],
  [
    'magenta ink is away from green',
    'inks',
    c => c.a,
    'middle',
    { tones: { middles: { c: 0, m: 0.8, y: 0, k: 0 } } },
    {},
  ],
  [
    'yellow ink is away from blue',
    'inks',
    c => c.b,
    'middle',
    { tones: { middles: { c: 0, m: 0, y: 0.8, k: 0 } } },
    {},
  ],
  [
    'black ink darkens',
    'inks',
    c => -c.L,
    'middle',
    { tones: { middles: { c: 0, m: 0, y: 0, k: 0.8 } } },
    {},
  ],
  [
    'a range is made lighter',
    'three-way-balance',
    c => c.L,
    'dark',
    { shadows: { hue: 0, amount: 0, lightness: 0.5 } },
    {},
  ],
  [
    'a family to the right gets lighter',
    'mono',
    c => c.L,
    'blue',
    { method: 'response', response: { blue: 0.8 } },
    { method: 'response' },
  ],
  [
    'the constant lifts every grey',
    'mono',
    c => c.L,
    'dark',
    { method: 'channels', channels: { red: 0.4, green: 0.4, blue: 0.2, constant: 0.1 } },
    { method: 'channels' },
  ],
  [
    'red light counts',
    'mono',
    c => c.L,
    'red',
    { method: 'channels', channels: { red: 1, green: 0, blue: 0, constant: 0 } },
    { method: 'channels' },
  ],
  ['black in: darker becomes black', 'levels', c => -c.L, 'dark', { inBlack: 0.1 }, {}],
  ['white in: lighter becomes white', 'levels', c => c.L, 'light', { inWhite: 0.9 }, {}],
  ['levels: gamma above 1 lifts', 'levels', c => c.L, 'middle', { gamma: 1.5 }, {}],
  ['black out is lifted', 'levels', c => c.L, 'dark', { outBlack: 0.2 }, {}],
  ['white out is lowered', 'levels', c => -c.L, 'light', { outWhite: 0.8 }, {}],
  [
    'balance: to the right the lights have more',
    'split-tone',
    c => c.b,
    'middle',
    { shadows: { hue: 240, saturation: 0.5 }, highlights: { hue: 50, saturation: 0.5 }, balance: 0.8 },
    { shadows: { hue: 240, saturation: 0.5 }, highlights: { hue: 50, saturation: 0.5 }, balance: -0.8 },
  ],
  [
    'a bath of high contrast keeps to its end',
    'baths',
    c => -c.b,
    'dark',
    { baths: [{ toner: 'sepia', time: 0.4, start: 'highlights', contrast: 0.8 }] },
    { baths: [{ toner: 'sepia', time: 0.4, start: 'highlights', contrast: -0.8 }] },
  ],
  [
    'selenium is deeper',
    'baths',
    c => -c.L,
    'dark',
    { baths: [{ toner: 'selenium', time: 1, start: 'shadows' }] },
    {},
  ],
  [
    'gold is blue',
    'baths',
    c => -c.b,
    'light',
    { baths: [{ toner: 'gold', time: 1, start: 'highlights' }] },
    {},
  ],
  [
    'copper is red brown',
    'baths',
    c => c.a,
    'middle',
    { baths: [{ toner: 'copper', time: 1, start: 'even' }] },
    {},
  ],
  [
    'iron blue is blue',
    'baths',
    c => -c.b,
    'middle',
    { baths: [{ toner: 'iron-blue', time: 1, start: 'even' }] },
    {},
  ],
  [
    'nickel is rose',
    'baths',
    c => c.a,
    'middle',
    { baths: [{ toner: 'nickel', time: 1, start: 'even' }] },
    {},
  ],
  [
    'vanadium is green',
    'baths',
    c => -c.a,
    'middle',
    { baths: [{ toner: 'vanadium', time: 1, start: 'even' }] },
    {},
  ],
  [
    'aged paper is yellow in the lights',
    'baths',
    c => c.b,
    'light',
    { baths: [], paper: { age: 0.8 } },
    { baths: [] },
  ],
  ['thick glass colours more', 'filter', chroma, 'light', { density: 0.9 }, { density: 0.2 }],
  ['corners: to the left darker', 'vignette', c => -c.L, 'corner', { amount: -0.6 }, {}],
  [
    'size: it begins further out',
    'vignette',
    c => c.L,
    'corner',
    { amount: -0.6, size: 1 },
    { amount: -0.6, size: 0.1 },
  ],
  [
    'lights in the corner are spared',
    'vignette',
    c => c.L,
    'corner',
    { amount: -0.6, spareHighlights: 1 },
    { amount: -0.6 },
  ],
  ['dodging to the right', 'local-light', c => c.L, 'middle', { exposure: 1 }, {}],
  [
    'more saturation is more of the hue',
    'tint',
    chroma,
    'middle',
    { hue: 30, saturation: 0.6 },
    { hue: 30, saturation: 0.1 },
  ],
];

describe('what is said of a control is so', () => {
  it.each(larger)('%s', (_, kind, of, place, more, less) => {
    expect(of(lab(kind, more, place))).toBeGreaterThan(of(lab(kind, less, place)) + 0.002);
  });
});
