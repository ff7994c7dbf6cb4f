import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { paint, read, rendered } from '../testing/pictures';
import { toneHistogram } from './histogram';
import { toneDrift, unwound } from './tone-drift';

const lch = converter('lch');

describe('colour from dark to light', () => {
  it('is the mean of each tone, as an independent library has it', () => {
    fc.assert(
      fc.property(
        fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)).filter(c => Math.max(...c) - Math.min(...c) > 20),
        ([r, g, b]) => {
          const codes = [r, g, b, 255, r, g, b, 255];
          const bins = toneDrift(codes, 4, 20);
          const full = bins.filter(bin => bin.share > 0);
          expect(full).toHaveLength(1);
          const wanted = lch({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 });
          expect(Math.abs((bins.indexOf(full[0]) + 0.5) * 5 - wanted.l)).toBeLessThan(2.6);
          expect(full[0].chroma).toBeCloseTo(wanted.c, 0);
          expect(Math.abs(((full[0].hue! - wanted.h! + 540) % 360) - 180)).toBeLessThan(1);
          expect(full[0].share).toBe(1);
        },
      ),
    );
  });

  it('of a grey picture has no hue anywhere; shares make up the whole', () => {
    const codes = Array.from({ length: 256 }, (_, i) => [i, i, i]).flat();
    const bins = toneDrift(codes, 3, 20);
    expect(bins.every(b => b.hue === null)).toBe(true);
    expect(bins.reduce((sum, b) => sum + b.share, 0)).toBeCloseTo(1);
  });

  it('of a split tone goes from the hue of the shadows to that of the lights', () => {
    const split = read([
      {
        kind: 'split-tone',
        settings: { shadows: { hue: 230, saturation: 0.4 }, highlights: { hue: 45, saturation: 0.4 } },
      },
    ]);
    const { codes } = rendered(
      split,
      paint(256, 4, x => [x, x, x]),
      { pixels: 1 },
    );
    const eight = Array.from(codes, v => Math.round(v / 257));
    const bins = toneDrift(eight, 3, 10);
    const [dark, light] = [bins[3], bins[8]];
    expect(dark.hue).toBeGreaterThan(200);
    expect(dark.hue).toBeLessThan(300);
    expect(light.hue).toBeGreaterThan(40);
    expect(light.hue).toBeLessThan(110);
    expect(dark.colour[2]).toBeGreaterThan(dark.colour[0]);
    expect(light.colour[0]).toBeGreaterThan(light.colour[2]);
  });

  it('hues in a row never leap, and are the same hues', () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.double({ min: 0, max: 359.9, noNaN: true }))), hues => {
        const row = unwound(hues);
        const there = row.filter(h => h !== null);
        there.forEach((h, i) => {
          if (i) expect(Math.abs(h - there[i - 1])).toBeLessThanOrEqual(180.0001);
        });
        row.forEach((h, i) => {
          if (h === null) expect(hues[i]).toBeNull();
          else expect(Math.abs(((((h - hues[i]!) % 360) + 540) % 360) - 180)).toBeLessThan(1e-6);
        });
      }),
    );
  });
});

describe('tones by channel', () => {
  it('are counted each, and all of them are the pixels', () => {
    const codes = [0, 128, 255, 255, 255, 255];
    expect(toneHistogram(codes, 3, 4, 0)).toEqual([1, 0, 0, 1]);
    expect(toneHistogram(codes, 3, 4, 1)).toEqual([0, 0, 1, 1]);
    expect(toneHistogram(codes, 3, 4, 2)).toEqual([0, 0, 0, 2]);
  });
});
