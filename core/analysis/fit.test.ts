import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { picture, read, rendered } from '../testing/pictures';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { evenness, measure, type Measures } from './evenness';
import { fitTowards, WITH_SERIES } from './fit';

/** Treatments brought towards the middle of their series. */

const source = picture(30, 20);
const measured = (treatment: Treatment): Promise<Measures> => {
  const { codes } = rendered(treatment, source, { pixels: 1 });
  return Promise.resolve(
    measure(
      Uint8Array.from(codes, v => Math.round(v / 257)),
      3,
    ),
  );
};
const brown = (shadows: number, black: number) =>
  read([
    { kind: 'mono' },
    { kind: 'levels', settings: { outBlack: black, outWhite: 0.97 } },
    {
      kind: 'split-tone',
      strength: 0.8,
      settings: {
        shadows: { hue: shadows, saturation: 0.3 },
        highlights: { hue: 60, saturation: 0.3 },
        balance: 0,
      },
    },
  ]);
const series = () =>
  Promise.all([18, 20, 22, 19, 21].map((hue, i) => measured(brown(hue, 0.04 + 0.004 * i))));

describe('bringing a treatment towards its series', () => {
  it('makes the blue one, the flat one and the overdone one sit with the others, and keeps what they are', async () => {
    const others = await series();
    const strays = {
      blue: read([
        { kind: 'mono' },
        { kind: 'baths', settings: { baths: [{ toner: 'iron-blue', time: 0.5 }] } },
      ]),
      flat: read([
        { kind: 'mono' },
        { kind: 'levels', settings: { outBlack: 0.3, outWhite: 0.75 } },
        ...brown(20, 0).steps.slice(2),
      ]),
      opposite: read([{ kind: 'mono' }, { kind: 'tint', settings: { hue: 215, saturation: 0.3 } }]),
      overdone: read([{ kind: 'mono' }, { kind: 'tint', settings: { hue: 40, saturation: 0.9 } }]),
    };
    for (const [name, stray] of Object.entries(strays)) {
      const before = evenness([...others, await measured(stray)]);
      expect(before.placed.at(-1)!.falls.length, name).toBeGreaterThan(0);
      const fitted = await fitTowards(stray, before.middle!, measured);
      const after = evenness([...others, await measured(fitted)]);
      expect(after.placed.at(-1)!.falls, name).toEqual([]);
      expect(
        after.placed.slice(0, -1).flatMap(p => p!.falls),
        name,
      ).toEqual([]);
      // Its own steps are there, as they were but for their strength.
      const own = fitted.steps.filter(s => s.name !== WITH_SERIES);
      expect(own.map(s => ({ ...s, strength: 1 }))).toEqual(stray.steps.map(s => ({ ...s, strength: 1 })));
      expect(parseTreatment(JSON.parse(JSON.stringify(fitted)))).toEqual(fitted);
    }
  }, 60_000);

  it('leaves one that sits there already nearly as it is, and makes an earlier fit anew', async () => {
    const others = await series();
    const { middle } = evenness(others);
    const fitted = await fitTowards(brown(20, 0.048), middle!, measured);
    const [, , tone] = fitted.steps;
    expect(tone.strength).toBeGreaterThan(0.7);
    const again = await fitTowards(fitted, middle!, measured);
    expect(again.steps.filter(s => s.name === WITH_SERIES).length).toBeLessThanOrEqual(2);
    expect(again.steps.length).toBeLessThanOrEqual(5);
  }, 60_000);

  it('is never farther from the middle than before, whatever the tint', async () => {
    const { middle } = evenness(await series());
    const unit = fc.double({ min: 0, max: 1, noNaN: true });
    const apart = (m: Measures) =>
      Math.hypot(
        ...(['shadows', 'middles', 'lights'] as const).flatMap(z =>
          m.zones[z] && middle!.zones[z]
            ? [m.zones[z].a - middle!.zones[z].a, m.zones[z].b - middle!.zones[z].b]
            : [],
        ),
      );
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: 359 }), unit, async (hue, saturation) => {
        const stray = read([
          { kind: 'mono' },
          { kind: 'tint', settings: { hue, saturation: saturation * 0.7 } },
        ]);
        const fitted = await fitTowards(stray, middle!, measured);
        expect(apart(await measured(fitted))).toBeLessThanOrEqual(apart(await measured(stray)) + 0.5);
      }),
      { numRuns: 3 },
    );
  }, 120_000);
});
