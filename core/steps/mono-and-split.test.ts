import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILIES, hueDirection, pureHue } from '../colour/hues';
import { decode } from '../colour/srgb';
import { settingsSchema } from '../settings/schema';
import { apart, grey, oklch, own } from '../testing/own';
import { stepKind, stepKinds, type Settings } from '.';

const unit = fc.double({ min: 0, max: 1, noNaN: true });

describe('every step kind', () => {
  it.each(stepKinds.map(k => k.kind))('%s fills in its defaults and refuses what it does not know', kind => {
    const definition = stepKind(kind)!;
    const schema = settingsSchema(definition.fields);
    expect(schema.parse({})).toEqual(definition.defaults);
    expect(schema.safeParse({ nonsense: 1 }).success).toBe(false);
  });

  const restful = stepKinds
    .map(k => k.kind)
    .filter(k => !['mono', 'tint', 'filter', 'gradient-map', 'wash', 'keep-colour'].includes(k));
  it.each(restful)('%s at its defaults does nothing', kind => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        own(kind, {}, [r, g, b]).forEach((v, i) => expect(v).toBeCloseTo([r, g, b][i], 12));
      }),
    );
  });
});

describe('mono', () => {
  it('luminance is Y, encoded', () => {
    const xyz = converter('xyz65');
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const [v, ...others] = own('mono', {}, [r, g, b]);
        expect(others).toEqual([v, v]);
        expect(Math.abs(decode(v) - xyz({ mode: 'rgb', r, g, b }).y)).toBeLessThan(2e-4);
      }),
    );
  });

  const alternating = Object.fromEntries(Object.keys(FAMILIES).map((name, i) => [name, i % 2 ? -1 : 1]));
  const opposite = Object.fromEntries(Object.entries(alternating).map(([name, v]) => [name, -v]));

  it('response: 0 is luminance, neutrals stay, a family moves its own hue the most', () => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        expect(own('mono', { method: 'response' }, [r, g, b])).toEqual(own('mono', {}, [r, g, b]));
        const kept = own('mono', { method: 'response', response: alternating }, grey(r))[0];
        expect(Math.abs(kept - r)).toBeLessThan(1e-6);
      }),
    );
    const neutral = stepKind('mono')!.defaults as Settings<'mono'>;
    for (const [name, hue] of Object.entries(FAMILIES)) {
      const moved = (of: number) => {
        const rgb = pureHue(of).map(v => 0.25 + v * 0.4);
        const response = { ...neutral.response, [name]: -1 };
        return own('mono', {}, rgb)[0] - own('mono', { method: 'response', response }, rgb)[0];
      };
      expect(moved(hue)).toBeGreaterThan(0.05);
      expect(Math.abs(moved((hue + 180) % 360))).toBeLessThan(0.02);
    }
  });

  it.each([
    ['alternating', alternating],
    ['opposite', opposite],
  ])('response at the ends, %s: smooth around the circle', (_, response) => {
    for (const [low, high] of [
      [0, 1],
      [0.3, 1],
      [0, 0.7],
      [0.2, 0.8],
      [0.4, 0.6],
    ]) {
      let last: number | undefined;
      for (let hue = 0; hue <= 360; hue += 0.5) {
        const rgb = pureHue(hue).map(v => low + v * (high - low));
        const v = own('mono', { method: 'response', response }, rgb)[0];
        if (last !== undefined) expect(Math.abs(v - last) * 255).toBeLessThanOrEqual(8);
        last = v;
      }
    }
  });

  it('response at the ends reaches: a pure colour to a quarter of its grey, or most of the way to white', () => {
    const still = (stepKind('mono')!.defaults as Settings<'mono'>).response;
    for (const [name, hue] of Object.entries(FAMILIES)) {
      const plain = own('mono', {}, pureHue(hue))[0];
      const at = (v: number) =>
        own('mono', { method: 'response', response: { ...still, [name]: v } }, pureHue(hue))[0];
      expect(at(-1) / plain).toBeLessThanOrEqual(0.25);
      expect((at(1) - plain) / (1 - plain)).toBeGreaterThanOrEqual(0.55);
      // Half of the slider is about half of the way: neither dead nor jumping.
      expect((plain - at(-0.5)) / (plain - at(-1))).toBeGreaterThan(0.35);
      expect((plain - at(-0.5)) / (plain - at(-1))).toBeLessThan(0.65);
    }
    const sky = [150 / 255, 180 / 255, 215 / 255];
    const dark = own('mono', { method: 'response', response: { ...still, blue: -1, cyan: -1 } }, sky)[0];
    expect(1 - dark / own('mono', {}, sky)[0]).toBeGreaterThanOrEqual(0.45);
  });

  it('response at the ends does not blow up the noise of a near-grey area', () => {
    let seed = 7;
    const noise = () => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
      return (seed / 2 ** 32 - 0.5) * (8 / 255);
    };
    for (const level of [0.2, 0.5, 0.8]) {
      const spread = (response: object) => {
        seed = 7;
        const values = Array.from({ length: 4000 }, () => {
          const rgb = [level + 0.008 + noise(), level + noise(), level - 0.008 + noise()];
          return own('mono', { method: 'response', response }, rgb)[0];
        });
        const mean = values.reduce((a, b) => a + b) / values.length;
        return Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
      };
      const zero = (stepKind('mono')!.defaults as Settings<'mono'>).response;
      expect(spread(alternating) / spread(zero)).toBeLessThan(1.5);
      expect(spread(opposite) / spread(zero)).toBeLessThan(1.5);
    }
  });

  it('response keeps dark to light in order along a hue', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 360, noNaN: true }), hue => {
        let last = -1;
        for (let k = 0; k <= 1; k += 0.02) {
          const rgb = pureHue(hue).map(v => k * (0.3 + 0.7 * v));
          const v = own('mono', { method: 'response', response: alternating }, rgb)[0];
          expect(v).toBeGreaterThanOrEqual(last - 1e-6);
          last = v;
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('split-tone', () => {
  const toned = {
    shadows: { hue: 220, saturation: 0.5 },
    midtones: { hue: 30, saturation: 0 },
    highlights: { hue: 40, saturation: 0.4 },
  };

  it('keeps lightness, whatever the settings', () => {
    const range = fc.record({ hue: fc.double({ min: 0, max: 360, noNaN: true }), saturation: unit });
    fc.assert(
      fc.property(
        fc.record({
          shadows: range,
          midtones: range,
          highlights: range,
          balance: fc.double({ min: -1, max: 1, noNaN: true }),
          crossover: unit,
        }),
        unit,
        (settings, v) => {
          const result = own('split-tone', settings, grey(v));
          expect(Math.abs(oklch(result).L - oklch(grey(v)).L)).toBeLessThan(0.005);
          for (const channel of result) {
            expect(channel).toBeGreaterThan(-0.02);
            expect(channel).toBeLessThan(1.02);
          }
        },
      ),
    );
  });

  it('gives each end its hue, and black and white none', () => {
    const dark = oklch(own('split-tone', toned, grey(0.12)));
    const light = oklch(own('split-tone', toned, grey(0.92)));
    expect(apart(dark.hue, hueDirection(220))).toBeLessThan(2);
    expect(apart(light.hue, hueDirection(40))).toBeLessThan(2);
    expect(dark.chroma).toBeGreaterThan(0.03);
    expect(light.chroma).toBeGreaterThan(0.015);
    for (const v of [0, 1]) {
      for (const channel of own('split-tone', toned, grey(v))) expect(channel).toBeCloseTo(v, 5);
    }
  });

  it('balance gives one end more of the scale, crossover widens where they meet', () => {
    const warmth = (settings: object, v: number) => {
      const [r, , b] = own('split-tone', { ...toned, ...settings }, grey(v));
      return r - b;
    };
    expect(warmth({ balance: 0.6 }, 0.4)).toBeGreaterThan(warmth({ balance: -0.6 }, 0.4) + 0.03);
    const step = (crossover: number) => warmth({ crossover }, 0.5) - warmth({ crossover }, 0.38);
    expect(step(0)).toBeGreaterThan(step(1) * 2);
  });

  it('keeps the colour that is there and adds to it', () => {
    const result = oklch(own('split-tone', toned, [0.5, 0.42, 0.4]));
    const before = oklch([0.5, 0.42, 0.4]);
    expect(Math.abs(result.L - before.L)).toBeLessThan(0.005);
    expect(result.chroma).toBeGreaterThan(0);
  });
});
