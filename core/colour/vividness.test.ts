import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Pigment } from './pigments';
import { starterBox } from './pigments';
import { atVividness, vividnessOf } from './vividness';

const oklch = converter('oklch');
const coloursOf = (pigment: Pigment) =>
  pigment.kind === 'flat' ? [pigment.colour] : pigment.stops.map(s => s.colour);
const turned = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

describe('vividness', () => {
  it('is 1 at the pure colours of the screen, 0 in greys', () => {
    for (const colour of ['#ff0000', '#00ff00', '#0000ff', '#ffff00', '#00ffff'])
      expect(vividnessOf({ kind: 'flat', colour })).toBeGreaterThan(0.97);
    for (const colour of ['#000000', '#777777', '#ffffff'])
      expect(vividnessOf({ kind: 'flat', colour })).toBeLessThan(0.01);
  });

  it('leaves lightness and hue where they are, as an independent library sees them', () => {
    const pigment = fc.constantFrom(...starterBox.map(p => p.pigment));
    fc.assert(
      fc.property(pigment, fc.double({ min: 0.15, max: 1, noNaN: true }), (before, vividness) => {
        const after = atVividness(before, vividness);
        coloursOf(after).forEach((colour, i) => {
          const was = oklch(coloursOf(before)[i])!;
          const is = oklch(colour)!;
          expect(Math.abs(is.l - was.l)).toBeLessThan(0.012);
          // Of a nearly grey code the hue is only rounding.
          if (is.c > 0.03 && was.c > 0.03) expect(turned(is.h!, was.h!)).toBeLessThan(9);
        });
        expect(vividnessOf(after)).toBeGreaterThan(vividness - 0.06);
        expect(vividnessOf(after)).toBeLessThan(vividness + 0.06);
      }),
    );
  });

  it('rises with the control and never folds', () => {
    for (const { pigment } of starterBox) {
      const chroma = [0.1, 0.3, 0.5, 0.7, 0.9].map(v =>
        coloursOf(atVividness(pigment, v)).reduce((sum, c) => sum + oklch(c)!.c, 0),
      );
      expect(chroma).toEqual(chroma.toSorted((a, b) => a - b));
    }
  });

  it('leaves a pigment without hue as it is', () => {
    const grey: Pigment = { kind: 'flat', colour: '#8a8a8a' };
    expect(atVividness(grey, 0.8)).toEqual(grey);
  });
});
