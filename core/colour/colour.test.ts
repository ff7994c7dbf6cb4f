import { converter, differenceCiede2000, parse } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cubeRoot, powerOfTwo, turnsOf } from './elementary';
import { toEncoded, toLinear } from './transfer';
import { ciede2000 } from './ciede2000';
import { chromaThatFits, held, mostChroma } from './gamut';
import { aroundTheCircle, FAMILIES, hueSixths, pureHue, readAround } from './hues';
import { rgbToLab } from './lab';
import { oklabToRgb, rgbToOklab } from './oklab';
import { decode, encode, luma, parseHex, toHex } from './srgb';

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const colour = fc.tuple(unit, unit, unit);

describe('sRGB', () => {
  it('follows the published curve', () => {
    const linear = converter('lrgb');
    for (let i = 0; i <= 255; i++) {
      const v = i / 255;
      expect(decode(v)).toBeCloseTo(linear({ mode: 'rgb', r: v, g: v, b: v }).r, 9);
      expect(encode(decode(v))).toBeCloseTo(v, 9);
    }
    expect(decode(-0.5)).toBe(-decode(0.5));
  });

  it('is the same by table', () => {
    fc.assert(
      fc.property(fc.double({ min: -0.5, max: 2, noNaN: true }), v => {
        expect(Math.abs(toLinear(v) - decode(v))).toBeLessThan(1e-6);
        expect(Math.abs(toEncoded(v) - encode(v))).toBeLessThan(1e-6);
      }),
    );
  });

  it('reads and writes hex, and refuses what is not a colour', () => {
    expect(parseHex('#ff8000')).toEqual([1, 128 / 255, 0]);
    expect(toHex(...parseHex('#c9781b'))).toBe('#c9781b');
    expect(() => parseHex('#fff')).toThrow(RangeError);
    expect(luma(1, 1, 1)).toBeCloseTo(1, 12);
  });
});

describe('elementary functions', () => {
  it('agree with Math', () => {
    const real = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(real, real, (x, y) => {
        expect(Math.abs(cubeRoot(x) - Math.cbrt(x))).toBeLessThan(1e-8);
        expect(Math.abs(powerOfTwo(x / 2) - 2 ** (x / 2))).toBeLessThan(2e-6);
        if (Math.hypot(x, y) < 1e-6) return;
        const exact = (Math.atan2(y, x) / (2 * Math.PI) + 1) % 1;
        const off = Math.abs(turnsOf(x, y) - exact);
        expect(Math.min(off, 1 - off)).toBeLessThan(2e-6);
      }),
    );
  });
});

describe('OKLab', () => {
  it('agrees with culori', () => {
    const reference = converter('oklab');
    fc.assert(
      fc.property(colour, ([r, g, b]) => {
        const c = Float64Array.of(r, g, b);
        rgbToOklab(c);
        const ok = reference({ mode: 'rgb', r, g, b });
        expect(Math.abs(c[0] - ok.l)).toBeLessThan(1e-4);
        expect(Math.abs(c[1] - ok.a)).toBeLessThan(1e-4);
        expect(Math.abs(c[2] - ok.b)).toBeLessThan(1e-4);
        oklabToRgb(c);
        for (const [i, v] of [r, g, b].entries()) expect(Math.abs(c[i] - v)).toBeLessThan(1e-4);
      }),
    );
  });

  it('gives greys no chroma', () => {
    for (let i = 0; i <= 100; i++) {
      const c = Float64Array.of(i / 100, i / 100, i / 100);
      rgbToOklab(c);
      expect(Math.hypot(c[1], c[2])).toBeLessThan(1e-6);
    }
  });
});

describe('gamut', () => {
  it('finds the edge that a colour just reaches', () => {
    for (const hue of [0, 45, 120, 200, 264, 300]) {
      const c = Float64Array.from(pureHue(hue));
      rgbToOklab(c);
      const chroma = Math.hypot(c[1], c[2]);
      expect(chromaThatFits(c[0], c[1], c[2])).toBeGreaterThan(0.999);
      expect(chromaThatFits(c[0], c[1] * 1.2, c[2] * 1.2)).toBeLessThan(1);
      expect(mostChroma(c[0], turnsOf(c[1], c[2]))).toBeLessThan(chroma + 0.004);
    }
  });

  it('is nothing at black and white, never more than there is by search, and little less', () => {
    for (const turns of [0, 0.2, 0.5, 0.999]) {
      expect(mostChroma(0, turns)).toBe(0);
      expect(mostChroma(1, turns)).toBe(0);
    }
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.999, noNaN: true }), unit, (L, turns) => {
        const angle = turns * 2 * Math.PI;
        const exact = 0.4 * chromaThatFits(L, 0.4 * Math.cos(angle), 0.4 * Math.sin(angle));
        const most = mostChroma(L, turns % 1);
        expect(most - exact).toBeLessThan(0.001);
        // Its corners are rounded.
        expect(most - exact).toBeGreaterThan(-0.004 - 0.25 * exact);
      }),
    );
  });

  it('is held smoothly: as it is when far from the most, never reaching it, and never folding', () => {
    let last = -1;
    for (let chroma = 0; chroma < 0.6; chroma += 0.001) {
      const left = chroma * held(chroma, 0.2);
      if (chroma < 0.159) expect(left).toBe(chroma);
      expect(left).toBeLessThanOrEqual(0.2);
      expect(left).toBeGreaterThanOrEqual(last);
      last = left;
    }
    expect(held(0.1, 0)).toBe(0);
  });
});

describe('hues', () => {
  const rgb = converter('rgb');
  it('are those of hsl()', () => {
    for (let hue = 0; hue < 360; hue += 7) {
      const [r, g, b] = pureHue(hue);
      const span = Math.max(r, g, b) - Math.min(r, g, b);
      expect(hueSixths(r, g, b, Math.max(r, g, b), span) * 60).toBeCloseTo(hue, 9);
      const reference = rgb(parse(`hsl(${hue} 100% 50%)`)!);
      expect(
        [r, g, b].map((v, i) => Math.abs(v - [reference.r, reference.g, reference.b][i]) < 1e-9),
      ).toEqual([true, true, true]);
    }
  });

  it('join the families smoothly, each alone at its own hue', () => {
    const names = Object.values(FAMILIES);
    names.forEach((hue, i) => {
      const table = aroundTheCircle(names.map((_, j) => (i === j ? 1 : 0)));
      expect(readAround(table, hue / 60)).toBeCloseTo(1, 3);
    });
    const sum = aroundTheCircle(names.map(() => 1));
    for (let t = 0; t <= 6; t += 0.05) expect(readAround(sum, t)).toBeCloseTo(1, 9);
  });
});

describe('CIELAB and CIEDE2000', () => {
  it('agree with culori on sRGB colours', () => {
    const reference = converter('lab');
    const difference = differenceCiede2000();
    fc.assert(
      fc.property(colour, colour, ([r, g, b], [R, G, B]) => {
        const own = rgbToLab(r, g, b);
        const lab = reference({ mode: 'rgb', r, g, b });
        expect(own[0]).toBeCloseTo(lab.l, 1);
        expect(own[1]).toBeCloseTo(lab.a, 1);
        expect(own[2]).toBeCloseTo(lab.b, 1);
        const other = rgbToLab(R, G, B);
        const [l1, a1, b1] = own;
        const [l2, a2, b2] = other;
        const expected = difference(
          { mode: 'lab65', l: l1, a: a1, b: b1 },
          { mode: 'lab65', l: l2, a: a2, b: b2 },
        );
        expect(ciede2000(own, other)).toBeCloseTo(expected, 6);
      }),
    );
  });

  // Pairs of the supplementary test data of Sharma, Wu and Dalal, 2005.
  it.each([
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1.0],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
    [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
    [[50, -0.001, 2.49], [50, 0.0011, -2.49], 4.7461],
    [[50, 2.5, 0], [50, 0, -2.5], 4.3065],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[50, 2.5, 0], [61, -5, 29], 22.8977],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    [[63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.263],
    [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
    [[90.8027, -2.0831, 1.441], [91.1528, -1.6435, 0.0447], 1.4441],
    [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
  ] as [[number, number, number], [number, number, number], number][])('of %j and %j', (a, b, expected) => {
    expect(ciede2000(a, b)).toBeCloseTo(expected, 4);
    expect(ciede2000(b, a)).toBeCloseTo(expected, 4);
  });
});
