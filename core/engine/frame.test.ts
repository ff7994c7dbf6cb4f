import fc from 'fast-check';
import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { anyFrame } from '../testing/arbitraries';
import { paint, picture, pixelAt, read, rendered } from '../testing/pictures';
import { frameSchema } from '../frame/schema';
import { fullCrop } from '../frame/crop';
import { framedSizeAt, geometryOf, sourceOf } from '../frame/geometry';

const frameOf = (part: object) => frameSchema.parse(part);
const photograph = { width: 300, height: 200 };

/** What sharp makes of a picture, one step after another. */
async function bySharp(source: ReturnType<typeof picture>, ...steps: ((s: Sharp) => Sharp)[]) {
  let raw = {
    data: Buffer.from(in8(source.codes as Uint16Array)),
    width: source.width,
    height: source.height,
  };
  for (const step of steps) {
    const { width, height } = raw;
    const { data, info } = await step(sharp(raw.data, { raw: { width, height, channels: 3 } }))
      .raw()
      .toBuffer({ resolveWithObject: true });
    raw = { data, width: info.width, height: info.height };
  }
  return Array.from(raw.data);
}
const in8 = (codes: Uint16Array) => Array.from(codes, v => Math.round(v / 257));

describe('frame', () => {
  it.each([0, 1, 2, 3])('%i quarter turns and the mirror are exact', async quarterTurns => {
    const source = picture(31, 22);
    for (const mirror of [false, true]) {
      const { codes } = rendered(read([], { frame: { quarterTurns, mirror } }), source);
      const turn = (s: Sharp) => s.rotate(90 * quarterTurns);
      const flop = (s: Sharp) => (mirror ? s.flop() : s);
      expect(in8(codes)).toEqual(await bySharp(source, turn, flop));
    }
  });

  it('a crop is a part of the turned picture, pixel for pixel', async () => {
    const source = picture(40, 30);
    const { codes, width, height } = rendered(
      read([], { frame: { crop: { x: 0.25, y: 0.1, width: 0.5, height: 0.6 } } }),
      source,
    );
    expect([width, height]).toEqual([20, 18]);
    expect(in8(codes)).toEqual(
      await bySharp(source, s => s.extract({ left: 10, top: 3, width: 20, height: 18 })),
    );
  });

  it('to the photograph and back is where it was', () => {
    const out = new Float64Array(2);
    fc.assert(
      fc.property(
        anyFrame,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (part, u, v) => {
          const g = geometryOf(photograph, frameOf(part));
          g.toPhotograph(u * g.width, v * g.height, out);
          const inside = out[0] >= 0 && out[1] >= 0 && out[0] <= 300 && out[1] <= 200;
          if (!inside) return;
          g.toFramed(out[0], out[1], out);
          expect(out[0]).toBeCloseTo(u * g.width, 6);
          expect(out[1]).toBeCloseTo(v * g.height, 6);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('asks for source pixels that hold all that is needed', () => {
    const out = new Float64Array(2);
    fc.assert(
      fc.property(anyFrame, part => {
        const g = geometryOf(photograph, frameOf(part));
        const box = sourceOf(g, { x: 0, y: 0, width: g.width, height: g.height });
        for (let x = 0.5; x < g.width; x += 7) {
          for (let y = 0.5; y < g.height; y += 7) {
            g.toPhotograph(x, y, out);
            if (out[0] < 0 || out[1] < 0 || out[0] > 300 || out[1] > 200) continue;
            expect(out[0]).toBeGreaterThanOrEqual(box.x - 1e-6);
            expect(out[0]).toBeLessThanOrEqual(box.x + box.width + 1e-6);
            expect(out[1]).toBeGreaterThanOrEqual(box.y - 1e-6);
            expect(out[1]).toBeLessThanOrEqual(box.y + box.height + 1e-6);
          }
        }
      }),
    );
  });

  it('turns clockwise by the angle about the middle', () => {
    // A mark right of the middle comes to lie below it.
    const source = paint(201, 201, (x, y) => (Math.hypot(x - 0.8, y - 0.5) < 0.05 ? [1, 0, 0] : [0, 0, 0]));
    const out = rendered(read([], { frame: { angle: 45 } }), source);
    const at = 100 + 0.3 * 201 * Math.SQRT1_2;
    expect(pixelAt(out, at, at)[0]).toBeGreaterThan(0.95);
    expect(pixelAt(out, 1, 1)).toEqual([1, 1, 1]);
  });

  it('keystone puts converging verticals upright', () => {
    // Two lines that lean together towards the top, as a tilted camera draws them.
    const lean = (y: number) => 0.2 + 0.1 * (1 - y);
    const source = paint(400, 300, (x, y) =>
      Math.abs(x - lean(y)) < 0.01 || Math.abs(1 - x - lean(y)) < 0.01 ? [0, 0, 0] : [1, 1, 1],
    );
    const lineAt = (out: ReturnType<typeof rendered>, y: number) => {
      let best = 0;
      for (let x = 1; x < 200; x++) if (pixelAt(out, x, y)[1] < pixelAt(out, best, y)[1]) best = x;
      return best;
    };
    const bare = rendered(read([]), source);
    const upright = rendered(read([], { frame: { keystone: { vertical: 0.42 } } }), source);
    expect(Math.abs(lineAt(bare, 60) - lineAt(bare, 240))).toBeGreaterThan(20);
    expect(Math.abs(lineAt(upright, 60) - lineAt(upright, 240))).toBeLessThan(6);
  });

  it('the full crop shows no empty corner', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -45, max: 45, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (angle, vertical) => {
          const frame = fullCrop(photograph, frameOf({ angle, keystone: { vertical } }));
          const g = geometryOf(photograph, frame);
          const out = new Float64Array(2);
          for (const x of [0.5, g.width - 0.5]) {
            for (const y of [0.5, g.height - 0.5]) {
              g.toPhotograph(x, y, out);
              expect(out[0]).toBeGreaterThanOrEqual(-1);
              expect(out[1]).toBeGreaterThanOrEqual(-1);
              expect(out[0]).toBeLessThanOrEqual(301);
              expect(out[1]).toBeLessThanOrEqual(201);
            }
          }
        },
      ),
    );
  });

  it('sizes: the long edge asked for is that of the framed picture', () => {
    const share = fc.double({ min: 0.3, max: 0.6, noNaN: true });
    fc.assert(
      fc.property(share, share, fc.integer({ min: 200, max: 1200 }), (x, width, asked) => {
        const photograph = { width: 6000, height: 4000 };
        const frame = frameOf({ crop: { x: x - 0.3, y: 0.1, width, height: 0.3 } });
        const { width: wide, height: high } = framedSizeAt(photograph, frame, asked);
        expect(Math.max(wide, high)).toBe(asked);
      }),
    );
    const whole = frameOf({});
    expect(framedSizeAt({ width: 600, height: 400 }, whole, 9000)).toEqual({ width: 600, height: 400 });
  });
});
