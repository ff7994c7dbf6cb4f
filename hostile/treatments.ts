import { encode } from 'fast-png';

/** Treatments made to take long, to be large, or to be none. */

const whole = (rest: object) => ({ format: 'lampwash-treatment', version: 1, ...rest });
const washOn = (mask: string) => ({ kind: 'wash', mask, settings: {} });
const areaOf = (id: string, ...parts: object[]) => ({ id, parts });
const on = (mask: string) => ({ kind: 'mask', mask });

/** Areas of which each is made twice of the one before. */
const doubling = (depth: number) =>
  whole({
    masks: [
      areaOf('m0', { kind: 'whole' }),
      ...Array.from({ length: depth }, (_, i) => areaOf(`m${i + 1}`, on(`m${i}`), on(`m${i}`))),
    ],
    steps: [washOn(`m${depth}`)],
  });

const stroke = (points: number, radius: number) => ({
  points: Array.from({ length: points }, (_, i) => [(i % 97) / 97, (i % 89) / 89, 1]),
  radius,
});
const painted = (strokes: object[]) =>
  whole({ masks: [areaOf('m', { kind: 'brush', strokes })], steps: [washOn('m')] });

const vast = () => {
  const [width, height] = [12_000, 12_000];
  const png = encode({ width, height, data: new Uint8Array(width * height), channels: 1, depth: 8 });
  return Buffer.from(png).toString('base64');
};
const nested = (depth: number) => JSON.parse('['.repeat(depth) + ']'.repeat(depth)) as unknown;

/** Each with a name: requests for a whole treatment in its JSON. */
export function heavyTreatments(): [string, unknown][] {
  const png = vast();
  const table = (size: string) => whole({ tables: { t: `LUT_3D_SIZE ${size}\n` }, steps: [] });
  const light = (exposure: unknown) => whole({ steps: [{ kind: 'light', settings: { exposure } }] });
  return [
    ...[2, 8, 16, 64, 190].map((depth): [string, unknown] => [
      `areas doubled ${depth} times`,
      doubling(depth),
    ]),
    [
      'an area that stands on itself',
      whole({ masks: [areaOf('a', on('b')), areaOf('b', on('a'))], steps: [] }),
    ],
    ['one stroke over all, 20,000 points', painted([stroke(20_000, 0.5)])],
    ['5,000 fine strokes', painted(Array.from({ length: 5000 }, () => stroke(20, 0.002)))],
    ['300 strokes of 1,000 points', painted(Array.from({ length: 300 }, () => stroke(1000, 0.01)))],
    [
      'a vast picture of an area',
      whole({ masks: [areaOf('m', { kind: 'picture', png })], steps: [washOn('m')] }),
    ],
    [
      'four vast pictures of areas',
      whole({
        masks: [0, 1, 2, 3].map(i => areaOf(`m${i}`, { kind: 'picture', png })),
        steps: [0, 1, 2, 3].map(i => washOn(`m${i}`)),
      }),
    ],
    ['a table of a size of 50,000 digits', table('9'.repeat(50_000))],
    ['a table of a size that is a number and no more', table('1e9')],
    [
      '200 steps',
      whole({
        steps: Array.from({ length: 200 }, (_, i) => ({
          kind: i % 2 ? 'glow' : 'local-contrast',
          settings: {},
        })),
      }),
    ],
    ['201 steps', whole({ steps: Array.from({ length: 201 }, () => ({ kind: 'mono', settings: {} })) })],
    [
      'a name of a prototype',
      whole({ steps: [{ kind: 'constructor', settings: {} }], tables: { __proto__: 'x' } }),
    ],
    [
      'many unknown settings',
      whole(Object.fromEntries(Array.from({ length: 20_000 }, (_, i) => [`s${i}`, i]))),
    ],
    ...[Infinity, -1e308, 'NaN', null, [], {}, '0'.repeat(10_000)].map((value): [string, unknown] => [
      `an exposure of ${String(value).slice(0, 20)}`,
      light(value),
    ]),
    ['a list', []],
    ['nothing', null],
    ['nested 1,500 deep', whole({ steps: nested(1500) })],
    ['a name with half a character', whole({ steps: [{ kind: 'mono', name: '\ud800', settings: {} }] })],
  ];
}
