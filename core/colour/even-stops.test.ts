import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenStops, gradientOf } from './gradient';
import { parseHex } from './srgb';

const code = fc.integer({ min: 0, max: 255 });
const hexOf = (...codes: number[]) => `#${codes.map(v => v.toString(16).padStart(2, '0')).join('')}`;
const places = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 12 });

describe('stops spaced evenly', () => {
  it('stand at equal distances from 0 to 1, in the order in which they stood, their colours kept', () => {
    fc.assert(
      fc.property(
        places,
        fc.array(fc.tuple(code, code, code), { minLength: 12, maxLength: 12 }),
        (ats, of) => {
          const stops = ats.map((at, i) => ({ at, colour: hexOf(of[i][0], of[i][1] | 1, of[i][2] & 254) }));
          const even = evenStops(stops);
          const inOrder = stops.slice().sort((a, b) => a.at - b.at);
          even.forEach((s, i) => {
            expect(s.at).toBeCloseTo(i / (even.length - 1), 3);
            expect(s.colour).toBe(inOrder[i].colour);
          });
        },
      ),
    );
  });

  it('of grey keep equal steps of tone, so that they are the scale again', () => {
    fc.assert(
      fc.property(places, fc.array(code, { minLength: 12, maxLength: 12 }), (ats, greys) => {
        const even = evenStops(ats.map((at, i) => ({ at, colour: hexOf(greys[i], greys[i], greys[i]) })));
        const tones = even.map(s => Math.round(parseHex(s.colour)[0] * 255));
        const step = (tones.at(-1)! - tones[0]) / (tones.length - 1);
        tones.forEach((v, i) => expect(Math.abs(v - (tones[0] + step * i))).toBeLessThanOrEqual(0.51));
      }),
    );
    const five = [0, 0.3, 0.4, 0.8, 1].map((at, i) => ({
      at,
      colour: hexOf(...Array(3).fill([0, 20, 160, 170, 255][i])),
    }));
    const through = gradientOf(evenStops(five), { interpolation: 'srgb' });
    const c = new Float64Array(3);
    for (let t = 0; t <= 1; t += 0.05) {
      through(t, c);
      expect(Math.abs(c[0] - t)).toBeLessThan(0.004);
    }
  });
});
