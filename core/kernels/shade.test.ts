import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shade } from './shade';

const light = converter('lrgb');
const encoded = converter('rgb');
const unit = fc.double({ min: 0, max: 1, noNaN: true });

describe('shade', () => {
  it('multiplies light by powers of two, as an independent library encodes it', () => {
    fc.assert(
      fc.property(
        fc.tuple(unit, unit, unit),
        unit,
        fc.double({ min: -4, max: 4, noNaN: true }),
        (rgb, w, stops) => {
          const out = new Float32Array(3);
          shade(Float32Array.from(rgb), out, Float32Array.of(w), stops, 0);
          const before = light({ mode: 'rgb', r: rgb[0], g: rgb[1], b: rgb[2] });
          const weight = Math.fround(w);
          const changed = (v: number) =>
            stops < 0 ? v * 2 ** (stops * weight) : 1 - 2 ** (-stops * weight) * (1 - v);
          const { r, g, b } = encoded({
            mode: 'lrgb',
            r: changed(before.r),
            g: changed(before.g),
            b: changed(before.b),
          });
          [r, g, b].forEach((v, k) => expect(Math.abs(out[k] - v)).toBeLessThan(2e-5));
        },
      ),
      { numRuns: 2000 },
    );
  });
});
