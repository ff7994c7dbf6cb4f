import { noContext } from './define';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILIES, familyNames, pureHue, type Family } from '../colour/hues';
import { mono } from './mono';
import { newStep } from '../treatment/edit';
import { bareTreatment } from '../treatment/treatment';
import { colourAbout, familiesOf, pullResponse, type Response } from './pull';

const still = Object.fromEntries(familyNames.map(name => [name, 0])) as Response;

/** Grey of a colour under a response. */
function grey(colour: readonly number[], response: Response): number {
  const { settings } = newStep(bareTreatment(), 'mono');
  const c = Float64Array.from(colour);
  mono.point({ ...settings, method: 'response', response }, noContext())(c);
  return c[0];
}

const soft = (hue: number) => pureHue(hue).map(v => 0.25 + 0.5 * v) as [number, number, number];

describe('the families of a colour', () => {
  it("are one at a family's own hue and two, summing to one, between", () => {
    for (const name of familyNames) {
      const [strongest] = familiesOf(soft(FAMILIES[name]));
      expect(strongest.family).toBe(name);
      expect(strongest.share).toBeCloseTo(1, 3);
    }
    const between = familiesOf(soft(90));
    expect(between.map(f => f.family).sort()).toEqual(['green', 'yellow']);
    expect(between[0].share + between[1].share).toBeCloseTo(1, 6);
  });
  it('are none for a grey', () => {
    expect(familiesOf([0.4, 0.4, 0.4])).toEqual([]);
    expect(pullResponse(still, [0.4, 0.41, 0.4], 0.5)).toEqual(still);
  });
});

describe('a pull', () => {
  it('makes what has the colour lighter upwards and darker downwards, and the more the further', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.45, noNaN: true }),
        (hue, amount) => {
          const colour = soft(hue);
          const at = (by: number) => grey(colour, pullResponse(still, colour, by));
          expect(at(amount)).toBeGreaterThan(at(0));
          expect(at(-amount)).toBeLessThan(at(0));
          expect(at(amount)).toBeGreaterThan(at(amount / 2));
        },
      ),
    );
  });
  it('moves the grey by the share that is asked, where the colour allows it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        (hue, by) => {
          const colour = soft(hue);
          const before = grey(colour, still);
          const wanted = Math.min(before * (1 + by), before + (1 - before) * 0.5);
          const got = grey(colour, pullResponse(still, colour, by));
          if (wanted === before * (1 + by)) expect(Math.abs(got - wanted)).toBeLessThan(0.004);
          else expect(got).toBeGreaterThan(wanted - 0.004);
        },
      ),
    );
  });
  it('takes a saturated blue from 55 to near black, and a pale sky down by more than two fifths', () => {
    const blue = [30 / 255, 60 / 255, 200 / 255] as [number, number, number];
    expect(grey(blue, pullResponse(still, blue, -0.7))).toBeLessThan(grey(blue, still) * 0.32);
    const sky = [150 / 255, 180 / 255, 215 / 255] as [number, number, number];
    expect(grey(sky, pullResponse(still, sky, -0.4))).toBeLessThan(grey(sky, still) * 0.61);
  });
  it('leaves families that the colour does not belong to, and stays within the range', () => {
    const start = { ...still, red: 0.9, blue: -0.4 };
    const pulled = pullResponse(start, soft(0), 1);
    expect(pulled.red).toBe(1);
    for (const name of familyNames.filter(n => n !== 'red') as Family[])
      expect(pulled[name]).toBe(start[name]);
  });
});

describe('the colour about a place', () => {
  it('leaves out a neighbour beyond an edge', () => {
    const codes = new Uint8ClampedArray(25 * 4);
    for (let i = 0; i < 25; i++) codes.set(i % 5 < 4 ? [200, 60, 60, 255] : [20, 20, 220, 255], i * 4);
    const [r, g, b] = colourAbout(codes, 4);
    expect(r).toBeCloseTo(200 / 255, 3);
    expect(g).toBeCloseTo(60 / 255, 3);
    expect(b).toBeCloseTo(60 / 255, 3);
  });
});
