import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenness, measure, median, toneZones, type Measures } from './evenness';

/** How alike photographs are toned. */

const toLab = converter('lab');

/** A ramp of so many steps, toned by colours to be added in CIELAB. */
function ramp(at: (t: number) => readonly [number, number, number], steps = 200): Uint8Array {
  const out = new Uint8Array(steps * 3);
  for (let i = 0; i < steps; i++)
    at(i / (steps - 1)).forEach((v, k) => (out[i * 3 + k] = Math.round(v * 255)));
  return out;
}
const greys = (from = 0, to = 1) =>
  ramp(t => [from + (to - from) * t, from + (to - from) * t, from + (to - from) * t]);
const tinted = (r: number, g: number, b: number) => ramp(t => [t ** (1 / r), t ** (1 / g), t ** (1 / b)]);

describe('measuring', () => {
  it('finds no colour in greys, and their ends', () => {
    const { zones, black, white } = measure(greys(0.1, 0.9), 3);
    for (const zone of toneZones) expect(Math.hypot(zones[zone]!.a, zones[zone]!.b)).toBeLessThan(0.05);
    const L = (v: number) => toLab({ mode: 'rgb', r: v, g: v, b: v }).l;
    expect(black).toBeCloseTo(L(0.1), -0.5);
    expect(white).toBeCloseTo(L(0.9), -0.5);
  });

  it('finds the colour of each zone, as an independent library has it', () => {
    const fraction = fc.double({ min: 0.02, max: 0.98, noNaN: true });
    fc.assert(
      fc.property(fraction, fraction, fraction, (r, g, b) => {
        const codes = [r, g, b].map(v => Math.round(v * 255));
        const lab = toLab({ mode: 'rgb', r: codes[0] / 255, g: codes[1] / 255, b: codes[2] / 255 });
        const many = Uint8Array.from({ length: 300 }, (_, i) => codes[i % 3]);
        const { zones, contrast } = measure(many, 3);
        const there = toneZones.filter(z => zones[z] !== null);
        expect(there.length).toBeLessThanOrEqual(1);
        for (const zone of there) {
          expect(zones[zone]!.a).toBeCloseTo(lab.a, 1);
          expect(zones[zone]!.b).toBeCloseTo(lab.b, 1);
        }
        expect(contrast).toBe(0);
      }),
    );
  });

  it('is not led astray by a painted object', () => {
    const grey = measure(greys(), 3);
    const painted = greys();
    // A quarter of the middles is painted red.
    for (let i = 92; i < 108; i++) painted.set([200, 60, 50], i * 3);
    const { zones } = measure(painted, 3);
    for (const zone of toneZones) expect(Math.abs(zones[zone]!.a - grey.zones[zone]!.a)).toBeLessThan(0.1);
  });

  it('reads every fourth number apart where there are four', () => {
    const three = tinted(1.1, 1, 0.9);
    const four = new Uint8Array((three.length / 3) * 4).fill(255);
    for (let i = 0; i < three.length / 3; i++) four.set(three.subarray(i * 3, i * 3 + 3), i * 4);
    expect(measure(four, 4)).toEqual(measure(three, 3));
  });
});

describe('the middle of a series', () => {
  const warm = measure(tinted(1.12, 1, 0.86), 3);
  const cold = measure(tinted(0.86, 1, 1.14), 3);
  const series = (...more: (Measures | null)[]) => [...Array.from({ length: 8 }, () => warm), ...more];

  it('names the one that is cooler, and nobody else', () => {
    const { placed } = evenness(series(cold, null));
    expect(placed.slice(0, 8).flatMap(p => p!.falls)).toEqual([]);
    expect(placed[8]!.falls.map(f => f.way)).toContain('cooler');
    expect(placed[8]!.falls[0].far).toBeGreaterThan(2);
    expect(placed[9]).toBeNull();
  });

  it('names lifted blacks and dull whites', () => {
    const { placed } = evenness([
      ...Array.from({ length: 6 }, () => measure(greys(), 3)),
      measure(greys(0.3, 0.55), 3),
    ]);
    expect(placed[6]!.falls.map(f => `${f.what} ${f.way}`).toSorted()).toEqual([
      'blacks lighter',
      'whites darker',
    ]);
  });

  it('needs three', () => {
    expect(evenness([warm, null, cold])).toEqual({ middle: null, placed: [null, null, null] });
  });

  it('does not depend on the order, and half of a series never falls out', () => {
    const gamma = fc.double({ min: 0.8, max: 1.25, noNaN: true });
    const any = fc.tuple(gamma, gamma).map(([r, b]) => measure(tinted(r, 1, b), 3));
    fc.assert(
      fc.property(fc.array(any, { minLength: 3, maxLength: 9 }), all => {
        const { middle, placed } = evenness(all);
        const turned = evenness(all.toReversed());
        expect(turned.middle).toEqual(middle);
        expect(turned.placed.toReversed()).toEqual(placed);
        for (const zone of toneZones) {
          const out = placed.filter(p => p!.falls.some(f => f.what === zone)).length;
          expect(out).toBeLessThanOrEqual(all.length / 2);
        }
      }),
    );
  });
});

it('a median is in the middle', () => {
  expect(median([3, 1, 2])).toBe(2);
  expect(median([4, 1, 2, 3])).toBe(2.5);
  expect(median([])).toBeNaN();
});
