import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lostShares, markColoured, markLost } from './clipping';

const pixels = (...list: number[][]) => Uint8ClampedArray.from(list.flat());

describe('pixels lost at the ends', () => {
  it('are counted: black in all channels, white in any; what is not picture is left out', () => {
    const codes = pixels([0, 0, 0, 255], [1, 1, 0, 255], [2, 0, 0, 255], [255, 90, 10, 255], [0, 0, 0, 0]);
    expect(lostShares(codes)).toEqual({ black: 0.5, white: 0.25 });
    expect(lostShares(new Uint8ClampedArray(8))).toEqual({ black: 0, white: 0 });
  });
  it('are painted, and no others', () => {
    fc.assert(
      fc.property(fc.uint8ClampedArray({ minLength: 4, maxLength: 400 }), values => {
        const codes = values.slice(0, values.length - (values.length % 4));
        for (let p = 3; p < codes.length; p += 4) codes[p] = 255;
        const marked = codes.slice();
        markLost(marked);
        for (let p = 0; p < codes.length; p += 4) {
          const { black, white } = lostShares(codes.subarray(p, p + 4));
          const same = [0, 1, 2].every(k => marked[p + k] === codes[p + k]);
          const isMark =
            [40, 90, 255].every((v, k) => codes[p + k] === v) ||
            [255, 110, 20].every((v, k) => codes[p + k] === v);
          if (!isMark) expect(same).toBe(black + white === 0);
        }
      }),
    );
  });
});

describe('what is coloured', () => {
  it('stands out: what is grey steps back, by whatever tone', () => {
    const codes = pixels([120, 120, 120, 255], [240, 236, 238, 255], [120, 108, 120, 255], [60, 60, 80, 255]);
    markColoured(codes);
    expect([...codes.subarray(0, 3)]).toEqual([36, 36, 36]);
    expect(codes[4]).toBe(72);
    expect([...codes.subarray(8)]).toEqual([120, 108, 120, 255, 60, 60, 80, 255]);
  });
});
