import { convertXyz65ToXyz50, converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, coneGains, conesOf } from '../colour/adaptation';
import { FAMILIES, hueDirection, pureHue } from '../colour/hues';
import { decode, luma } from '../colour/srgb';
import { darkShare, lightShare, middleShare } from '../colour/tones';
import { settingsOf, signed, unit } from '../testing/arbitraries';
import { apart, grey, oklch, own } from '../testing/own';
import { light } from './light';

describe('light', () => {
  it('doubles linear light a stop', () => {
    expect(decode(own('light', { exposure: 1 }, grey(0.5))[0])).toBeCloseTo(2 * decode(0.5), 5);
    expect(decode(own('light', { exposure: -2 }, [0.8, 0.4, 0.2])[1])).toBeCloseTo(decode(0.4) / 4, 5);
  });

  it('never folds a neutral ramp, whatever the settings, and leaves neutrals neutral', () => {
    fc.assert(
      fc.property(settingsOf(light.fields), settings => {
        let last = -Infinity;
        for (let v = 0; v <= 1.0001; v += 1 / 256) {
          const [r, g, b] = own('light', settings, grey(v));
          expect(Math.abs(r - g) + Math.abs(r - b)).toBeLessThan(1e-9);
          expect(r).toBeGreaterThanOrEqual(last - 1e-9);
          last = r;
        }
      }),
      { numRuns: 300 },
    );
  });

  it('highlights and shadows move only their own tones', () => {
    fc.assert(
      fc.property(signed, unit, (amount, v) => {
        const low = v / 2;
        const high = 0.5 + v / 2;
        expect(own('light', { highlights: amount }, grey(low))[0]).toBeCloseTo(low, 9);
        expect(own('light', { shadows: amount }, grey(high))[0]).toBeCloseTo(high, 9);
      }),
    );
    expect(own('light', { shadows: 1 }, grey(0.2))[0]).toBeGreaterThan(0.3);
    expect(own('light', { highlights: -1 }, grey(0.9))[0]).toBeLessThan(0.83);
  });

  it('highlights bring back what an exposure pushed beyond white', () => {
    const [low, high] = [0.8, 0.95].map(v => own('light', { exposure: 1, highlights: -1 }, grey(v))[0]);
    expect(low).toBeLessThan(1);
    expect(high).toBeGreaterThan(low + 0.005);
  });

  it('contrast pivots at mid grey and keeps black and white upwards', () => {
    for (const contrast of [-1, -0.4, 0.5, 1]) {
      expect(own('light', { contrast }, grey(0.5))[0]).toBeCloseTo(0.5, 9);
    }
    expect(own('light', { contrast: 1 }, grey(0.7))[0]).toBeGreaterThan(0.75);
    expect(own('light', { contrast: 1 }, grey(1))[0]).toBeCloseTo(1, 9);
    expect(own('light', { brightness: 0.5 }, grey(1))[0]).toBeCloseTo(1, 9);
    expect(own('light', { gamma: 2 }, grey(0.25))[0]).toBeCloseTo(0.5, 9);
    expect(own('light', { offset: 0.1 }, grey(0.25))[0]).toBeCloseTo(0.35, 9);
  });
});

describe('white balance', () => {
  it("the Bradford transform is culori's, from D65 to D50", () => {
    // The cone gains that take the white of D65 to that of D50, seen through sRGB.
    const white = { mode: 'xyz65' as const, x: 0.3127 / 0.329, y: 1, z: (1 - 0.3127 - 0.329) / 0.329 };
    const to = convertXyz65ToXyz50(white);
    const lrgb = converter('lrgb');
    const at50 = lrgb({ mode: 'xyz65', x: to.x, y: to.y, z: to.z });
    const matrix = coneGains(conesOf([at50.r, at50.g, at50.b]).map((v, i) => v / conesOf([1, 1, 1])[i]));
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const xyz = converter('xyz65')({ mode: 'lrgb', r, g, b });
        const expected = convertXyz65ToXyz50(xyz);
        const back = lrgb({ mode: 'xyz65', x: expected.x, y: expected.y, z: expected.z });
        apply(matrix, [r, g, b]).forEach((v, i) => expect(v).toBeCloseTo([back.r, back.g, back.b][i], 3));
      }),
    );
  });

  it('what is picked becomes grey of its own luminance', () => {
    for (const neutral of ['#c8a070', '#7090b0', '#404850', '#e0e0e0']) {
      const rgb = [1, 3, 5].map(i => parseInt(neutral.slice(i, i + 2), 16) / 255);
      const [r, g, b] = own('white-balance', { neutral }, rgb);
      expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(1e-4);
      const y = 0.2126 * decode(rgb[0]) + 0.7152 * decode(rgb[1]) + 0.0722 * decode(rgb[2]);
      expect(decode(g)).toBeCloseTo(y, 3);
    }
    expect(own('white-balance', { neutral: '#000000' }, [0.3, 0.4, 0.5])).toEqual([0.3, 0.4, 0.5]);
  });

  it('warmth goes to amber and tint to magenta, white keeping its luminance', () => {
    const y = ([r, g, b]: number[]) => 0.2126 * decode(r) + 0.7152 * decode(g) + 0.0722 * decode(b);
    const warm = own('white-balance', { warmth: 1 }, grey(0.9));
    const cool = own('white-balance', { warmth: -1 }, grey(0.9));
    expect(warm[0]).toBeGreaterThan(warm[2] + 0.1);
    expect(cool[2]).toBeGreaterThan(cool[0] + 0.1);
    const magenta = own('white-balance', { tint: 1 }, grey(0.7));
    expect(Math.min(magenta[0], magenta[2])).toBeGreaterThan(magenta[1] + 0.03);
    expect(y(warm)).toBeCloseTo(decode(0.9), 2);
  });
});

describe('saturation', () => {
  it('-1 is the grey of equal luma; spare leaves what has colour', () => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        own('saturation', { amount: -1 }, [r, g, b]).forEach(v => expect(v).toBeCloseTo(luma(r, g, b), 9));
      }),
    );
    const vivid = [0.9, 0.1, 0.1];
    const plain = own('saturation', { amount: 1 }, vivid);
    const spared = own('saturation', { amount: 1, spare: 1 }, vivid);
    expect(plain[0] - vivid[0]).toBeGreaterThan(3 * (spared[0] - vivid[0]));
  });
});

describe('colour bands', () => {
  const all = (change: object) => Object.fromEntries(Object.keys(FAMILIES).map(f => [f, change]));

  it('leave neutrals untouched', () => {
    fc.assert(
      fc.property(unit, signed, signed, signed, (v, hue, saturation, lightness) => {
        expect(own('colour-bands', all({ hue, saturation, lightness }), grey(v))).toEqual(grey(v));
      }),
    );
  });

  it.each(Object.entries(FAMILIES))('%s turns by 30 degrees at 1', (name, hue) => {
    const rgb = pureHue(hue).map(v => 0.4 + 0.15 * v);
    const turned = oklch(own('colour-bands', { [name]: { hue: 1, saturation: 0, lightness: 0 } }, rgb));
    expect(apart(turned.hue, oklch(rgb).hue)).toBeGreaterThan(8);
    const wanted = apart(hueDirection(hue + 30), hueDirection(hue));
    expect(Math.abs(apart(turned.hue, oklch(rgb).hue) - wanted)).toBeLessThan(6);
    expect(turned.L).toBeCloseTo(oklch(rgb).L, 3);
  });

  it('saturation -1 everywhere takes all colour away, lightness raises it', () => {
    const rgb = [0.7, 0.4, 0.3];
    expect(
      oklch(own('colour-bands', all({ hue: 0, saturation: -1, lightness: 0 }), rgb)).chroma,
    ).toBeLessThan(1e-3);
    const lighter = own('colour-bands', all({ hue: 0, saturation: 0, lightness: 0.5 }), rgb);
    expect(oklch(lighter).L).toBeGreaterThan(oklch(rgb).L + 0.03);
  });

  it('are smooth between families', () => {
    const settings = Object.fromEntries(
      Object.keys(FAMILIES).map((f, i) => [
        f,
        { hue: i % 2 ? 0.4 : -0.4, saturation: i % 2 ? -0.5 : 0.5, lightness: i % 2 ? 0.5 : -0.5 },
      ]),
    );
    // In OKLab, since a channel near black is steep in encoded numbers.
    let last: ReturnType<typeof oklch> | undefined;
    for (let hue = 0; hue <= 360; hue += 0.5) {
      const rgb = pureHue(hue).map(v => 0.3 + 0.3 * v);
      const now = oklch(own('colour-bands', settings, rgb));
      if (last) {
        expect(Math.abs(now.L - last.L)).toBeLessThan(0.012);
        expect(Math.abs(now.chroma - last.chroma)).toBeLessThan(0.012);
        expect(apart(now.hue, last.hue)).toBeLessThan(3);
      }
      last = now;
    }
  });
});

describe('inks', () => {
  const ink = (part: object) => ({ c: 0, m: 0, y: 0, k: 0, ...part });
  const noTones = { lights: ink({}), middles: ink({}), darks: ink({}) };
  const noHues = Object.fromEntries(
    ['red', 'yellow', 'green', 'cyan', 'blue', 'magenta'].map(h => [h, ink({})]),
  );

  it('tones sum to one', () => {
    fc.assert(
      fc.property(unit, v => {
        expect(darkShare(v) + middleShare(v) + lightShare(v)).toBeCloseTo(1, 12);
        expect(middleShare(v)).toBeGreaterThanOrEqual(-1e-12);
      }),
    );
  });

  it('at full membership 1 darkens its channel by half the range, -1 lightens it so', () => {
    const lights = (part: object) => ({ tones: { ...noTones, lights: ink(part) }, hues: noHues });
    expect(own('inks', lights({ c: 1 }), grey(1))).toEqual([0.5, 1, 1]);
    expect(own('inks', lights({ m: 1 }), grey(1))).toEqual([1, 0.5, 1]);
    expect(own('inks', lights({ k: 1 }), grey(1))).toEqual([0.5, 0.5, 0.5]);
    const red = { tones: noTones, hues: { ...noHues, red: ink({ c: -1, y: 1 }) } };
    expect(own('inks', red, [1, 0, 0])).toEqual([1.5, 0, -0.5]);
    expect(own('inks', red, [0, 1, 1])).toEqual([0, 1, 1]);
    expect(own('inks', red, grey(0.5))).toEqual(grey(0.5));
  });

  it('greys the lights and lifts the darks after a conversion', () => {
    const settings = {
      tones: { ...noTones, lights: ink({ k: 0.2 }), darks: ink({ k: -0.2 }) },
      hues: noHues,
    };
    expect(own('inks', settings, grey(1))[0]).toBeCloseTo(0.9, 9);
    expect(own('inks', settings, grey(0))[0]).toBeCloseTo(0.1, 9);
    expect(own('inks', settings, grey(0.5))[0]).toBeCloseTo(0.5, 9);
  });
});

describe('three-way balance', () => {
  const none = { hue: 0, amount: 0, lightness: 0 };

  it('keeps lightness where asked, and gives each range its hue', () => {
    const settings = {
      shadows: { hue: 220, amount: 0.5, lightness: 0 },
      midtones: none,
      highlights: { hue: 40, amount: 0.5, lightness: 0 },
    };
    const dark = oklch(own('three-way-balance', settings, grey(0.12)));
    const light = oklch(own('three-way-balance', settings, grey(0.88)));
    expect(apart(dark.hue, hueDirection(220))).toBeLessThan(3);
    expect(apart(light.hue, hueDirection(40))).toBeLessThan(3);
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const kept = own('three-way-balance', { ...settings, keepLightness: true }, [r, g, b]);
        expect(Math.abs(oklch(kept).L - oklch([r, g, b]).L)).toBeLessThan(0.005);
      }),
    );
    const free = own('three-way-balance', { ...settings, keepLightness: false }, grey(0.1));
    expect(free[2]).toBeGreaterThan(free[0]);
  });

  it('its lightness never folds the scale', () => {
    fc.assert(
      fc.property(signed, signed, signed, (a, b, c) => {
        const settings = {
          shadows: { ...none, lightness: a },
          midtones: { ...none, lightness: b },
          highlights: { ...none, lightness: c },
        };
        let last = -Infinity;
        for (let v = 0; v <= 1; v += 1 / 200) {
          const [r] = own('three-way-balance', settings, grey(v));
          expect(r).toBeGreaterThanOrEqual(last - 1e-6);
          last = r;
        }
      }),
    );
  });
});
