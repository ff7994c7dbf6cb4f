import { converter } from 'culori';
import { multiLocalized, profileOf } from '../pictures/icc';

/** Profiles made for tests, of every kind of curve that a grey one may have, and matrix profiles of wide gamuts. */

function parametric(kind: 0 | 1 | 2 | 3 | 4, numbers: readonly number[]): Buffer {
  const tag = Buffer.alloc(12 + numbers.length * 4);
  tag.write('para', 0, 'latin1');
  tag.writeUInt16BE(kind, 8);
  numbers.forEach((v, i) => tag.writeInt32BE(Math.round(v * 65536), 12 + i * 4));
  return tag;
}

function gamma(power: number): Buffer {
  const tag = Buffer.alloc(14);
  tag.write('curv', 0, 'latin1');
  tag.writeUInt32BE(1, 8);
  tag.writeUInt16BE(Math.round(power * 256), 12);
  return tag;
}

function sampled(curve: (v: number) => number): Buffer {
  const count = 1024;
  const tag = Buffer.alloc(12 + count * 2);
  tag.write('curv', 0, 'latin1');
  tag.writeUInt32BE(count, 8);
  for (let i = 0; i < count; i++) {
    tag.writeUInt16BE(Math.round(curve(i / (count - 1)) * 65535), 12 + i * 2);
  }
  return tag;
}

function xyz(values: readonly number[]): Buffer {
  const tag = Buffer.alloc(20);
  tag.write('XYZ ', 0, 'latin1');
  values.forEach((v, i) => tag.writeInt32BE(Math.round(v * 65536), 8 + i * 4));
  return tag;
}

const text = (name: string): [string, Buffer][] => [
  ['desc', multiLocalized(name)],
  ['cprt', multiLocalized('No rights reserved')],
  ['wtpt', xyz([0.9642, 1, 0.8249])],
];

const grey = (curve: Buffer, pcs: 'XYZ ' | 'Lab ' = 'XYZ ') =>
  profileOf('GRAY', pcs, [...text('Grey for a test'), ['kTRC', curve]]);

/** L* of CIE 1976 to relative luminance. */
const luminanceOf = (L: number) => {
  const f = (L + 16) / 116;
  return f > 6 / 29 ? f ** 3 : 3 * (6 / 29) ** 2 * (f - 4 / 29);
};

/** Grey profiles, and the relative luminance that each gives to a value 0..1, by its own formula (ICC.1:2010, 10.16). */
export const greyProfiles: { name: string; icc: Buffer; luminance: (v: number) => number }[] = [
  { name: 'gamma', icc: grey(gamma(2.2)), luminance: v => v ** (Math.round(2.2 * 256) / 256) },
  { name: 'samples', icc: grey(sampled(v => v ** 1.8)), luminance: v => v ** 1.8 },
  { name: 'parametric 0', icc: grey(parametric(0, [1.8])), luminance: v => v ** 1.8 },
  {
    name: 'parametric 1',
    icc: grey(parametric(1, [2, 1.1, -0.1])),
    luminance: v => (v >= 0.1 / 1.1 ? (1.1 * v - 0.1) ** 2 : 0),
  },
  {
    name: 'parametric 2',
    icc: grey(parametric(2, [2, 0.9, 0.02, 0.1])),
    luminance: v => (0.9 * v + 0.02) ** 2 + 0.1,
  },
  {
    name: 'parametric 3',
    icc: grey(parametric(3, [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045])),
    luminance: v => (v >= 0.04045 ? ((v + 0.055) / 1.055) ** 2.4 : v / 12.92),
  },
  {
    name: 'parametric 4',
    icc: grey(parametric(4, [2, 0.9, 0.05, 0.3, 0.2, 0.05, 0.02])),
    luminance: v => (v >= 0.2 ? (0.9 * v + 0.05) ** 2 + 0.05 : 0.3 * v + 0.02),
  },
  { name: 'gamma, by way of Lab', icc: grey(gamma(1), 'Lab '), luminance: v => luminanceOf(100 * v) },
  {
    name: 'parametric 0, by way of Lab',
    icc: grey(parametric(0, [1.5]), 'Lab '),
    luminance: v => luminanceOf(100 * v ** 1.5),
  },
];

const toXyz = converter('xyz50');
const column = (mode: 'p3' | 'a98' | 'prophoto', i: number) => {
  const { x, y, z } = toXyz({ mode, r: Number(i === 0), g: Number(i === 1), b: Number(i === 2) });
  return xyz([x, y, z]);
};
const matrix = (mode: 'p3' | 'a98' | 'prophoto', curve: Buffer) =>
  profileOf('RGB ', 'XYZ ', [
    ...text(`Wide for a test, ${mode}`),
    ['rXYZ', column(mode, 0)],
    ['gXYZ', column(mode, 1)],
    ['bXYZ', column(mode, 2)],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
  ]);

/** Matrix profiles of wide gamuts, with culori's name for each. */
export const wideProfiles = [
  {
    mode: 'p3' as const,
    icc: matrix('p3', parametric(3, [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045])),
  },
  { mode: 'a98' as const, icc: matrix('a98', gamma(563 / 256)) },
  { mode: 'prophoto' as const, icc: matrix('prophoto', parametric(3, [1.8, 1, 0, 1 / 16, 16 / 512])) },
];

/** A profile for inks, which no photograph in grey or RGB can have. */
export const inkProfile = profileOf('CMYK', 'Lab ', text('Inks for a test'));
