import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { remembered, throughAlike } from './alike';

/** Any function of a colour that is not flat: each channel from all three. */
const bend = (rgb: Float32Array, p: number) => {
  const [r, g, b] = [rgb[p], rgb[p + 1], rgb[p + 2]];
  rgb[p] = 0.7 * r * r + 0.3 * g;
  rgb[p + 1] = Math.sin(g) + 0.1 * b;
  rgb[p + 2] = b * (1 - 0.5 * r);
};
const colour = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -0.2, max: 1.2, noNaN: true })));

describe('colours that are nearly alike', () => {
  it('become what each becomes by itself, within half a step, whatever came before them', () => {
    const memory = remembered();
    fc.assert(
      fc.property(fc.array(colour, { minLength: 1, maxLength: 60 }), fc.nat(3), (all, of) => {
        const rgb = Float32Array.from(all.flat());
        const alone = rgb.map(v => v);
        for (let p = 0; p < alone.length; p += 3) bend(alone, p);
        throughAlike(rgb, all.length, memory, of, p => bend(rgb, p));
        // No channel of the function is steeper than 1.7.
        for (let i = 0; i < rgb.length; i++) expect(Math.abs(rgb[i] - alone[i])).toBeLessThan(1.7 / 1023);
      }),
    );
  });
  it('are asked for once, and the same numbers come of the same colour in any order', () => {
    const grey = Float32Array.from({ length: 3000 }, (_, i) => (Math.floor(i / 3) % 20) / 20);
    let asked = 0;
    const ask = (rgb: Float32Array) => (p: number) => {
      asked++;
      bend(rgb, p);
    };
    const memory = remembered();
    const first = grey.slice();
    throughAlike(first, 1000, memory, 'one', ask(first));
    expect(asked).toBe(20);
    const turned = grey.toReversed();
    throughAlike(turned, 1000, memory, 'one', ask(turned));
    expect(asked).toBe(20);
    for (let i = 0; i < 1000; i++) expect(turned[i * 3]).toBe(first[(999 - i) * 3]);
    // Another function is asked anew.
    throughAlike(grey.slice(), 1000, memory, 'other', ask(grey));
    expect(asked).toBe(40);
  });
});
