import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../frame/geometry';
import { frameSchema } from '../frame/schema';
import { coverageOf } from './coverage';
import { emptyMask, type Mask } from './mask';
import { fringeOf } from './fringe';
import { paint, pixelAt, read, rendered } from '../testing/pictures';

/** Fine threads before a darker ground, and how much of each pixel they are. */
const WIDTH = 240;
const HEIGHT = 160;
const THING = [0.82, 0.74, 0.6];
const BEHIND = [0.2, 0.26, 0.36];

/** Threads to the right of a block, from the left edge to the middle. */
function threads(x: number, y: number): number {
  const block = Math.min(1, Math.max(0, 120 - x));
  if (x >= 150) return block;
  const along = (y + 0.15 * (x - 120)) % 8;
  return Math.max(block, Math.max(0, 1 - Math.abs(along - 4)));
}

const alpha = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
  threads(i % WIDTH, Math.floor(i / WIDTH)),
);
const mixed = new Float32Array(alpha.length * 3);
alpha.forEach((a, i) => {
  for (let k = 0; k < 3; k++) mixed[i * 3 + k] = a * THING[k] + (1 - a) * BEHIND[k];
});
const geometry = geometryOf({ width: WIDTH, height: HEIGHT }, frameSchema.parse({}));
const whole = { x: 0, y: 0, width: WIDTH, height: HEIGHT };
const input = { beneath: mixed, ground: mixed.slice() };

/** An area painted as far as the middle of the threads. */
const area = (shape: Partial<Mask>): Mask => ({
  ...emptyMask('m', ''),
  ...shape,
  parts: [
    {
      kind: 'linear',
      op: 'add',
      from: [134.5 / WIDTH, 0.5],
      to: [135.5 / WIDTH, 0.5],
      softness: 0,
    },
  ],
});

function covered(shape: Partial<Mask>): Float32Array {
  const { survey, of } = coverageOf('m', [area(shape)], 0);
  const found = of(whole, geometry, input, survey?.(whole, geometry, input));
  const out = new Float32Array(alpha.length);
  if (!found) return out;
  for (let y = 0; y < found.height; y++) {
    const row = found.values.subarray(y * found.width, (y + 1) * found.width);
    out.set(row, (found.y + y) * WIDTH + found.x);
  }
  return out;
}

const off = (values: Float32Array) =>
  values.reduce((sum, v, i) => sum + Math.abs(v - alpha[i]), 0) / values.length;

describe('a fine edge', () => {
  it('tells threads from what is behind them', () => {
    expect(off(covered({}))).toBeGreaterThan(0.03);
    expect(off(covered({ fine: 0.1 }))).toBeLessThan(off(covered({})) / 4);
  });

  it('changes nothing beyond its band', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 0.12, noNaN: true }), fine => {
        const [plain, found] = [covered({}), covered({ fine })];
        const reach = fine * WIDTH + 2;
        for (let i = 0; i < plain.length; i++) {
          if (Math.abs((i % WIDTH) - 135) <= reach) continue;
          expect(Math.abs(found[i] - plain[i])).toBeLessThan(1e-6);
        }
      }),
      { numRuns: 8 },
    );
  });

  it('of the inverse is the inverse', () => {
    const [found, inverse] = [covered({ fine: 0.1 }), covered({ fine: 0.1, invert: true })];
    for (let i = 0; i < found.length; i++) expect(Math.abs(1 - found[i] - inverse[i])).toBeLessThan(0.02);
  });

  it('is feathered and grown after it has been found', () => {
    const [sharp, soft] = [covered({ fine: 0.1 }), covered({ fine: 0.1, feather: 0.02 })];
    expect(off(soft)).toBeGreaterThan(off(sharp));
    const steepest = (values: Float32Array) =>
      values.reduce((most, v, i) => (i % WIDTH ? Math.max(most, Math.abs(v - values[i - 1])) : most), 0);
    expect(steepest(soft)).toBeLessThan(steepest(sharp) / 2);
    expect(Math.max(...covered({ fine: 0.1, grow: 0.02 }).map((v, i) => sharp[i] - v))).toBeLessThan(0.05);
  });
});

describe('fringe', () => {
  it("carries the thing's own colours over its edge", () => {
    const plane = { width: WIDTH, height: HEIGHT, values: Float32Array.from(alpha, a => (a > 0.5 ? 1 : 0)) };
    const { colours, counts } = fringeOf(plane, mixed, 4);
    // A pixel beyond the block's edge, and one deep inside.
    const edge = 12 * WIDTH + 122;
    colours.forEach((c, k) => expect(Math.abs(c.values[edge] - THING[k])).toBeLessThan(0.03));
    expect(counts.values[edge]).toBeGreaterThan(0.9);
    expect(counts.values[80 * WIDTH + 60]).toBeLessThan(0.001);
  });

  it('lays on a toned thing as if it had been toned before it stood before what is behind it', () => {
    // A soft edge down the middle: the thing is pale, a wash turns pale to one hue and dark to another.
    const [thing, behind] = [0.8, 0.25];
    const shareAt = (x: number) => Math.min(1, Math.max(0, (124 - x) / 8));
    const source = paint(WIDTH, HEIGHT, x => {
      const a = shareAt(x * WIDTH);
      const v = a * thing + (1 - a) * behind;
      return [v, v, v];
    });
    const stops = [
      { at: 0, colour: '#102a5c' },
      { at: 0.5, colour: '#3f8f4a' },
      { at: 1, colour: '#f2d9b0' },
    ];
    const soft = [{ kind: 'linear', op: 'add', from: [116 / WIDTH, 0.5], to: [124 / WIDTH, 0.5] }];
    const treatment = (fringe: number) =>
      read([{ kind: 'gradient-map', mask: 'm', settings: { stops } }], {
        masks: [{ id: 'm', fringe, parts: soft }],
      });
    const plain = rendered(treatment(0), source);
    const mended = rendered(treatment(0.02), source);
    const toned = pixelAt(plain, 60, 80);
    const wrong = (picture: { codes: Uint16Array; width: number }) => {
      let sum = 0;
      for (let x = 112; x < 130; x++) {
        const a = shareAt(x + 0.5);
        pixelAt(picture, x, 80).forEach((v, k) => (sum += Math.abs(v - (a * toned[k] + (1 - a) * behind))));
      }
      return sum / (18 * 3);
    };
    expect(wrong(plain)).toBeGreaterThan(0.01);
    expect(wrong(mended)).toBeLessThan(wrong(plain) / 2.5);
    // Deep inside nothing is changed.
    expect(pixelAt(mended, 40, 80)).toEqual(pixelAt(plain, 40, 80));
  });
});
