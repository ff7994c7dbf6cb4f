import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Frame } from './frame';
import { frameSchema } from './schema';
import { mirrored, turned } from './turn';
import { cropOfRatio, cropsOf, cropTowards, fullCrop, turnedBy, withinPhotograph } from './crop';
import { framedSize, geometryOf } from './geometry';
import { madeParallel, straightened, type Line } from './verticals';

const photograph = { width: 3000, height: 2000 };
const frameOf = (part: object) => frameSchema.parse(part);

/** What lies in the photograph under a line of a framed picture. */
function under(frame: Frame, from: [number, number], to: [number, number]): Line {
  const { toPhotograph } = geometryOf(photograph, frame);
  return [from, to].map(([x, y]) => {
    const out = new Float64Array(2);
    toPhotograph(x, y, out);
    return [out[0], out[1]];
  }) as Line;
}

const turns = fc.record({
  quarterTurns: fc.integer({ min: 0, max: 3 }),
  mirror: fc.boolean(),
  angle: fc.double({ min: -12, max: 12, noNaN: true }),
  keystone: fc.record({
    vertical: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
    horizontal: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
  }),
});

describe('a line drawn to straighten', () => {
  it('finds the angle under which it was level or upright', () => {
    fc.assert(
      fc.property(turns, part => {
        const truth = frameOf({ ...part, keystone: undefined });
        const level = under(truth, [300, 700], [1700, 700]);
        const upright = under(truth, [700, 200], [700, 1500]);
        const start = { ...truth, angle: 0 };
        expect(straightened(photograph, start, level).angle).toBeCloseTo(truth.angle, 6);
        expect(straightened(photograph, start, upright).angle).toBeCloseTo(truth.angle, 6);
      }),
    );
  });
});

describe('two lines drawn to be parallel', () => {
  it('find the keystone and the angle under which they were upright', () => {
    fc.assert(
      fc.property(turns, part => {
        const truth = frameOf({ ...part, keystone: { vertical: part.keystone.vertical, horizontal: 0 } });
        const start = frameOf({ ...truth, angle: 0, keystone: undefined });
        const lines = [
          under(truth, [400, 300], [400, 1500]),
          under(truth, [1500, 250], [1500, 1600]),
        ] as const;
        const found = madeParallel(photograph, start, lines);
        expect(found.keystone.vertical).toBeCloseTo(truth.keystone.vertical, 3);
        expect(found.angle).toBeCloseTo(truth.angle, 2);
      }),
    );
  });
  it('find the horizontal one from level lines, and stay in range for lines that converge too much', () => {
    const truth = frameOf({ keystone: { horizontal: 0.4 } });
    const lines = [under(truth, [300, 400], [2600, 400]), under(truth, [300, 1500], [2600, 1500])] as const;
    expect(madeParallel(photograph, frameOf({}), lines).keystone.horizontal).toBeCloseTo(0.4, 3);
    const wild: [Line, Line] = [
      [
        [1400, 100],
        [200, 1900],
      ],
      [
        [1600, 100],
        [2800, 1900],
      ],
    ];
    const found = madeParallel(photograph, frameOf({}), wild);
    expect(Math.abs(found.keystone.vertical)).toBeLessThanOrEqual(1);
    expect(frameSchema.safeParse(found).success).toBe(true);
  });
});

describe('crops', () => {
  it('drawn in or dragged show no empty corner, and are frames that can be saved', () => {
    const crops = fc
      .tuple(...Array.from({ length: 4 }, () => fc.double({ min: 0, max: 1, noNaN: true })))
      .map(([x, y, w, h]) => ({
        x: x * 0.7,
        y: y * 0.7,
        width: 0.05 + w * (0.95 - x * 0.7),
        height: 0.05 + h * (0.95 - y * 0.7),
      }));
    fc.assert(
      fc.property(turns, crops, crops, (part, crop, wanted) => {
        const inside = withinPhotograph(photograph, frameOf({ ...part, crop }));
        const holds = cropsOf(photograph, inside);
        expect(holds(inside.crop)).toBe(true);
        const dragged = cropTowards(photograph, inside, wanted);
        expect(holds(dragged)).toBe(true);
        expect(frameSchema.safeParse({ ...inside, crop: dragged }).success).toBe(true);
      }),
    );
  });
  it('that show no empty corner stay as they are', () => {
    const frame = frameOf({ crop: { x: 0.2, y: 0.1, width: 0.5, height: 0.6 } });
    expect(withinPhotograph(photograph, frame)).toBe(frame);
    expect(fullCrop(photograph, frame)).toBe(frame);
  });
  it('of a ratio have it in pixels, within the picture', () => {
    fc.assert(
      fc.property(turns, fc.constantFrom(1, 1.5, 0.8, 16 / 9), (part, ratio) => {
        const frame = fullCrop(photograph, frameOf(part));
        const cropped = { ...frame, crop: cropOfRatio(photograph, frame, ratio) };
        const { width, height } = framedSize(photograph, cropped);
        expect(width / height).toBeCloseTo(ratio, 1);
        expect(cropsOf(photograph, frame)(cropped.crop)).toBe(true);
      }),
    );
    expect(turnedBy(photograph, frameOf({ quarterTurns: 1 }))).toEqual({ width: 2000, height: 3000 });
  });
});

describe('a frame turned or mirrored', () => {
  it('shows the same picture, turned or mirrored, cropped alike', () => {
    fc.assert(
      fc.property(
        turns,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (part, u, v) => {
          const frame = frameOf({ ...part, crop: { x: 0.1, y: 0.2, width: 0.5, height: 0.7 } });
          const at = (f: Frame, x: number, y: number) => {
            const { width, height, toPhotograph } = geometryOf(photograph, f);
            const out = new Float64Array(2);
            toPhotograph(x * width, y * height, out);
            return [...out];
          };
          const near = (a: number[], b: number[]) =>
            a.forEach((v, i) => expect(Math.abs(v - b[i])).toBeLessThan(3));
          near(at(turned(frame, 'right'), 1 - v, u), at(frame, u, v));
          near(at(turned(frame, 'left'), v, 1 - u), at(frame, u, v));
          near(at(mirrored(frame), 1 - u, v), at(frame, u, v));
        },
      ),
    );
  });
});
