import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exactly } from '../engine/lay';
import { read, rendered, paint } from '../testing/pictures';
import { tonerNames } from './baths';

/** Toning leaves no ring in a smooth ramp, and black black. */

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const hue = fc.double({ min: 0, max: 360, noNaN: true });
const range = fc.record({ hue, saturation: unit });
/** Midtones lie over both others: together they ask for little more than there is. */
const oneOfThree = fc.record({ hue, saturation: unit.map(v => 0.7 * v) });
const hex = fc.integer({ min: 0, max: 0xffffff }).map(n => `#${n.toString(16).padStart(6, '0')}`);

const toning = fc.oneof(
  range.map(settings => ({ kind: 'tint', settings })),
  fc
    .record({
      shadows: oneOfThree,
      midtones: oneOfThree,
      highlights: oneOfThree,
      balance: fc.double({ min: -1, max: 1, noNaN: true }),
      // Sharper than this the two ranges meet at an edge of their own.
      crossover: fc.double({ min: 0.3, max: 1, noNaN: true }),
    })
    .map(settings => ({ kind: 'split-tone', settings })),
  fc.record({ colour: hex, density: unit }).map(settings => ({ kind: 'filter', settings })),
  fc
    .array(
      fc.record({
        toner: fc.constantFrom(...tonerNames),
        time: unit,
        start: fc.constantFrom('highlights', 'shadows', 'even'),
      }),
      { minLength: 1, maxLength: 3 },
    )
    .map(baths => ({ kind: 'baths', settings: { baths } })),
);

const STEPS = 512;
/** The darkest entries are left out: there the sRGB curve itself turns from its toe. */
const FROM = 24;
/** And the lightest, where the brightest yellow closes to white within a few codes. */
const TO = STEPS - 40;
/** How far a channel's slope may change from one step of 1/512 to the next. A kink at the edge of sRGB came to 2 to 7. */
const MOST_TURN = 1.6;

describe('toning', () => {
  it('leaves no kink in any channel along a smooth ramp', () => {
    fc.assert(
      fc.property(toning, step => {
        const point = exactly(read([step]));
        const ramp = Array.from({ length: STEPS + 1 }, (_, i) => {
          const c = Float64Array.of(i / STEPS, i / STEPS, i / STEPS);
          point(c);
          return c;
        });
        for (let i = FROM; i < TO; i++) {
          for (let k = 0; k < 3; k++) {
            const turn = STEPS * (ramp[i - 1][k] - 2 * ramp[i][k] + ramp[i + 1][k]);
            expect(Math.abs(turn)).toBeLessThan(MOST_TURN);
          }
        }
      }),
      { numRuns: 300 },
    );
  });

  it('keeps black at 0 and white at 1 through tint and split tone, in every way of rendering', () => {
    const ends = paint(64, 2, x => (x < 0.5 ? [0, 0, 0] : [1, 1, 1]));
    const keeps = toning.filter(({ kind }) => kind === 'tint' || kind === 'split-tone');
    fc.assert(
      fc.property(keeps, fc.boolean(), fc.constantFrom(1, 1e9), (step, grey, pixels) => {
        const { codes } = rendered(read([step]), ends, { grey, pixels });
        expect(new Set(codes.subarray(0, 96))).toEqual(new Set([0]));
        expect(new Set(codes.subarray(96, 192))).toEqual(new Set([65535]));
      }),
      { numRuns: 12 },
    );
  }, 60_000);

  it('never leaves what sRGB holds', () => {
    // Baths keep the ratio of a colour that is there to its grey.
    const held = toning.filter(({ kind }) => kind !== 'baths');
    fc.assert(
      fc.property(held, fc.tuple(unit, unit, unit), (step, colour) => {
        const c = Float64Array.from(colour);
        exactly(read([step]))(c);
        for (const v of c) {
          expect(v).toBeGreaterThan(-0.005);
          expect(v).toBeLessThan(1.005);
        }
      }),
      { numRuns: 300 },
    );
  });
});
