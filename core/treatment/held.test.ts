import { describe, expect, it } from 'vitest';
import { createPlanner } from '../engine/plan';
import { render8 } from '../engine/render';
import { geometryOf } from '../frame/geometry';
import { whileHeld } from './held';
import { parseTreatment, type Treatment } from './schema';

/** Red, green, blue, dark grey, light grey, side by side. */
const colours = [
  [200, 40, 40],
  [40, 180, 60],
  [40, 60, 200],
  [30, 30, 30],
  [230, 230, 230],
];

function shown(treatment: Treatment): number[][] {
  const codes = Uint16Array.from(colours.flat(), v => v * 257);
  const geometry = geometryOf({ width: colours.length, height: 1 }, treatment.frame);
  const plan = createPlanner()(treatment, { grey: false, pixels: colours.length });
  const out = new Uint8Array(colours.length * 3);
  render8(plan, { codes, width: colours.length, height: 1, x: 0, y: 0 }, out, 3, {
    grey: false,
    geometry,
    surveys: [],
  });
  return colours.map((_, i) => [...out.subarray(i * 3, i * 3 + 3)]);
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
