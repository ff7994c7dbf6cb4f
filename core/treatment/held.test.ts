import { describe, expect, it } from 'vitest';
import { paint, pixelAt, rendered } from '../testing/pictures';
import { whileHeld } from './held';
import type { Treatment } from './treatment';
import { parseTreatment } from './schema';

/** Red, green, blue, dark grey, light grey, side by side. */
const colours = [
  [200, 40, 40],
  [40, 180, 60],
  [40, 60, 200],
  [30, 30, 30],
  [230, 230, 230],
];

/** The middle of each colour's patch as it comes out, in codes. */
function shown(treatment: Treatment): number[][] {
  const source = paint(colours.length * 24, 24, x =>
    colours[Math.floor(x * colours.length)].map(v => v / 255),
  );
  const out = rendered(treatment, source, { pixels: 100 });
  return colours.map((_, i) => pixelAt(out, i * 24 + 12, 12).map(v => Math.round(v * 255)));
}

const of = (step: object) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps: [{ id: 's1', ...step }] });

describe('while a control is held', () => {
  it('leaves the family that it touches and lets the rest step back', () => {
    const treatment = of({ kind: 'mono', settings: { method: 'response', response: { red: 0.2 } } });
    const before = shown(treatment);
    const held = shown(whileHeld(treatment, 's1', [['response', 'red']]));
    expect(held[0]).toEqual(before[0]);
    for (const i of [1, 2, 4]) expect(held[i][0]).toBeLessThan(before[i][0] * 0.75);
  });

  it('holds several families at once', () => {
    const treatment = of({ kind: 'mono', settings: { method: 'response' } });
    const before = shown(treatment);
    const held = shown(
      whileHeld(treatment, 's1', [
        ['response', 'green'],
        ['response', 'blue'],
      ]),
    );
    expect(Math.abs(held[1][0] - before[1][0])).toBeLessThan(12);
    expect(Math.abs(held[2][0] - before[2][0])).toBeLessThan(12);
    expect(held[0][0]).toBeLessThan(before[0][0] * 0.75);
  });

  it('shows the tones of a range of the balance, and of an ink', () => {
    for (const [step, path] of [
      [{ kind: 'three-way-balance' }, ['highlights', 'amount']],
      [{ kind: 'inks' }, ['tones', 'lights', 'y']],
    ] as const) {
      const treatment = of(step);
      const held = shown(whileHeld(treatment, 's1', [path]));
      expect(held[4][0]).toBeGreaterThan(220);
      expect(held[0][0]).toBeLessThan(150);
    }
  });

  it('shows a hue of a split tone at its full strength, and only while a hue is held', () => {
    const treatment = of({
      kind: 'split-tone',
      strength: 0.3,
      settings: { highlights: { hue: 40, saturation: 0.05 } },
    });
    const held = whileHeld(treatment, 's1', [['highlights', 'hue']]);
    const spread = (rgb: number[]) => Math.max(...rgb) - Math.min(...rgb);
    expect(spread(shown(held)[4])).toBeGreaterThan(spread(shown(treatment)[4]) + 15);
    expect(whileHeld(treatment, 's1', [['highlights', 'saturation']])).toBe(treatment);
  });

  it('is the treatment itself where a control touches all, or nothing is held', () => {
    const treatment = of({ kind: 'light' });
    expect(whileHeld(treatment, 's1', [['exposure']])).toBe(treatment);
    expect(whileHeld(treatment, 's1', [])).toBe(treatment);
    expect(whileHeld(treatment, 'gone', [['exposure']])).toBe(treatment);
  });
});
