import { formatHex, interpolate, converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveThrough } from '../colour/curves';
import { hueDirection } from '../colour/hues';
import { decode, encode, parseHex } from '../colour/srgb';
import { readCube } from '../formats/cube';
import { settingsOf, unit } from '../testing/arbitraries';
import { apart, grey, oklch, own } from '../testing/own';
import { newStep } from '../treatment/edit';
import { bareTreatment } from '../treatment/treatment';
import { baths, nextBath, tonerNames, toners, turnedShare, usualBath, type Bath } from './baths';
import { curve } from './curve';

const Y = ([r, g, b]: readonly number[]) => 0.2126 * decode(r) + 0.7152 * decode(g) + 0.0722 * decode(b);

describe('curve', () => {
  it('goes through its points and by hand between them', () => {
    const f = curveThrough([
      [0, 0],
      [0.5, 0.7],
      [1, 1],
    ]);
    expect([0, 0.5, 1].map(f)).toEqual([0, 0.7, 1]);
    // Tangents 1.4, 1 and 0.6; halfway along the first piece: 0.35 + 0.5 (0.125 · 1.4 − 0.125 · 1).
    expect(f(0.25)).toBeCloseTo(0.375, 12);
    expect(
      [-1, 0.2].map(
        curveThrough([
          [0.2, 0.3],
          [0.8, 0.6],
        ]),
      ),
    ).toEqual([0.3, 0.3]);
    expect(
      curveThrough([
        [0.2, 0.3],
        [0.8, 0.6],
      ])(1),
    ).toBe(0.6);
  });

  it('never leaves the range between two neighbouring points, and rises where they rise', () => {
    fc.assert(
      fc.property(settingsOf(curve.fields.points.fields), ({ all }) => {
        const points = (all as [number, number][]).filter(
          (p, i, list) => i === 0 || p[0] - list[i - 1][0] > 1e-6,
        );
        if (points.length < 2) return;
        const f = curveThrough(points);
        for (let i = 0; i + 1 < points.length; i++) {
          const [a, b] = [points[i], points[i + 1]];
          let last = a[1];
          for (let t = 0; t <= 1; t += 0.1) {
            const y = f(a[0] + t * (b[0] - a[0]));
            expect(y).toBeGreaterThanOrEqual(Math.min(a[1], b[1]) - 1e-9);
            expect(y).toBeLessThanOrEqual(Math.max(a[1], b[1]) + 1e-9);
            expect((y - last) * Math.sign(b[1] - a[1])).toBeGreaterThanOrEqual(-1e-9);
            last = y;
          }
        }
      }),
    );
  });

  it('lightness alone keeps the hue, and on greys is the same as all channels', () => {
    const points = [
      [0, 0.1],
      [0.5, 0.6],
      [1, 0.95],
    ];
    fc.assert(
      fc.property(unit, v => {
        const alone = own('curve', { points: { ...curve.defaults.points, lightness: points } }, grey(v));
        expect(alone).toEqual(own('curve', { points: { ...curve.defaults.points, all: points } }, grey(v)));
      }),
    );
    const before = oklch([0.5, 0.35, 0.3]);
    const after = oklch(
      own('curve', { points: { ...curve.defaults.points, lightness: points } }, [0.5, 0.35, 0.3]),
    );
    expect(apart(before.hue, after.hue)).toBeLessThan(0.5);
    expect(after.L).toBeGreaterThan(before.L + 0.03);
  });

  it('a channel moves alone', () => {
    expect(
      own(
        'curve',
        {
          points: {
            ...curve.defaults.points,
            green: [
              [0, 0.2],
              [1, 1],
            ],
          },
        },
        [0.1, 0.5, 0.9],
      ),
    ).toEqual([0.1, expect.closeTo(0.6, 9), 0.9]);
  });
});

describe('levels', () => {
  it('at and between their points', () => {
    const settings = { inBlack: 0.2, inWhite: 0.8, gamma: 2, outBlack: 0.1, outWhite: 0.9 };
    const at = (v: number) => own('levels', settings, grey(v))[0];
    expect([0, 0.2, 0.8, 1].map(at)).toEqual([0.1, 0.1, 0.9, 0.9].map(v => expect.closeTo(v, 9)));
    expect(at(0.35)).toBeCloseTo(0.1 + 0.8 * Math.sqrt(0.25), 9);
  });
});

describe('tint', () => {
  it('keeps lightness within 0.005 and hue within 2 degrees, with no chroma at the ends', () => {
    const hues = fc.double({ min: 0, max: 360, noNaN: true });
    fc.assert(
      fc.property(hues, unit, unit, (hue, saturation, v) => {
        const toned = own('tint', { hue, saturation }, grey(v));
        expect(Math.abs(oklch(toned).L - oklch(grey(v)).L)).toBeLessThan(0.005);
        if (oklch(toned).chroma > 0.01) expect(apart(oklch(toned).hue, hueDirection(hue))).toBeLessThan(2);
        for (const end of [0, 1]) {
          own('tint', { hue, saturation }, grey(end)).forEach(c => expect(c).toBeCloseTo(end, 5));
        }
      }),
    );
  });
});

describe('a row of baths', () => {
  it('begins with sepia in the lights, then selenium in the darks; each toner where a printer expects it', () => {
    const fresh = newStep(bareTreatment(), 'baths').settings.baths;
    expect(fresh.map(b => [b.toner, b.start])).toEqual([['sepia', 'highlights']]);
    const second = nextBath(fresh);
    expect([second.toner, second.start]).toEqual(['selenium', 'shadows']);
    const starts = Object.fromEntries(tonerNames.map(t => [t, usualBath(t).start]));
    expect(starts).toMatchObject({
      sepia: 'highlights',
      selenium: 'shadows',
      gold: 'highlights',
      copper: 'even',
      'iron-blue': 'even',
    });
    // Every further one is another toner, until all are in.
    const row: Bath[] = [];
    for (let i = 0; i < tonerNames.length; i++) row.push(nextBath(row));
    expect(new Set(row.map(b => b.toner)).size).toBe(tonerNames.length);
    for (const bath of row) expect(bath.time).toBeGreaterThan(0.2);
  });

  it('where a bath usually begins it turns more than at the other end', () => {
    for (const toner of tonerNames) {
      const { time, start, contrast } = usualBath(toner);
      const [light, dark] = [0.1, 0.9].map(depth => turnedShare(time, start, contrast, depth));
      if (start === 'highlights') expect(light).toBeGreaterThan(dark + 0.2);
      else if (start === 'shadows') expect(dark).toBeGreaterThan(light + 0.2);
      else expect(light).toBeCloseTo(dark, 9);
    }
  });
});

describe('baths', () => {
  const one = (toner: string, time: number, more = {}) => ({
    baths: [{ toner, time, start: 'even', contrast: 0, ...more }],
  });

  it('keep luminance within 2 % for toners that do not deepen, and say which do', () => {
    fc.assert(
      fc.property(settingsOf({ baths: baths.fields.baths }), unit, (settings, v) => {
        const used = (settings.baths as { toner: keyof typeof toners; time: number }[]).filter(
          b => b.time > 0,
        );
        const before = Y(grey(v));
        const after = Y(own('baths', settings, grey(v)));
        if (used.every(b => toners[b.toner].deepens === 0)) {
          expect(Math.abs(after - before)).toBeLessThanOrEqual(0.02 * before + 1e-6);
        } else expect(after).toBeLessThanOrEqual(before * 1.02 + 1e-6);
      }),
      { numRuns: 300 },
    );
    expect(tonerNames.filter(name => toners[name].deepens > 0)).toEqual(['selenium', 'gold']);
  });

  it.each(tonerNames)('%s never folds the scale', toner => {
    for (const start of ['highlights', 'shadows', 'even']) {
      for (const contrast of [-1, 0, 1]) {
        let last = -1;
        for (let v = 0; v <= 1.0001; v += 1 / 128) {
          const y = Y(own('baths', one(toner, 0.4, { start, contrast }), grey(v)));
          expect(y).toBeGreaterThanOrEqual(last - 1e-7);
          last = y;
        }
      }
    }
  });

  it('a short bath colours the end where it starts', () => {
    const chroma = (v: number, start: string) =>
      oklch(own('baths', one('sepia', 0.3, { start }), grey(v))).chroma;
    const whole = (v: number) => oklch(own('baths', one('sepia', 1), grey(v))).chroma;
    expect(chroma(0.85, 'highlights') / whole(0.85)).toBeGreaterThan(0.5);
    expect(chroma(0.2, 'highlights') / whole(0.2)).toBeLessThan(0.35);
    expect(chroma(0.2, 'shadows') / whole(0.2)).toBeGreaterThan(0.35);
    expect(chroma(0.85, 'shadows') / whole(0.85)).toBeLessThan(0.25);
    fc.assert(
      fc.property(unit, unit, (time, depth) => {
        expect(turnedShare(time, 'highlights', 0, depth)).toBeCloseTo(
          turnedShare(time, 'shadows', 0, 1 - depth),
          9,
        );
        expect(turnedShare(1, 'highlights', 0.5, depth)).toBe(1);
      }),
    );
  });

  it('two baths in order give split colours', () => {
    const both = {
      baths: [
        { toner: 'sepia', time: 0.35, start: 'highlights', contrast: 0.3 },
        { toner: 'iron-blue', time: 1, start: 'even', contrast: 0 },
      ],
    };
    const light = own('baths', both, grey(0.85));
    const dark = own('baths', both, grey(0.25));
    expect(light[0]).toBeGreaterThan(light[2]);
    expect(dark[2]).toBeGreaterThan(dark[0] + 0.05);
  });

  it('a long first bath leaves nothing for the second', () => {
    const alone = one('sepia', 1);
    const followed = { baths: [...alone.baths, { toner: 'iron-blue', time: 1, start: 'even', contrast: 0 }] };
    fc.assert(
      fc.property(unit, v => {
        own('baths', followed, grey(v)).forEach((c, i) => {
          expect(c).toBeCloseTo(own('baths', alone, grey(v))[i], 9);
        });
      }),
    );
  });

  it('aged paper yellows the lights, and paper colour is their product in linear light', () => {
    const aged = own('baths', { baths: [], paper: { colour: '#ffffff', age: 1 } }, grey(1));
    expect(aged[0]).toBeGreaterThan(aged[2] + 0.15);
    const paper = own('baths', { baths: [], paper: { colour: '#e0d0b0', age: 0 } }, grey(0.6));
    paper.forEach((v, i) => expect(decode(v)).toBeCloseTo(decode(0.6) * decode(parseHex('#e0d0b0')[i]), 5));
  });

  it('tone the way their names say', () => {
    const [sepia, iron, copper] = ['sepia', 'iron-blue', 'copper'].map(t =>
      own('baths', one(t, 1), grey(0.5)),
    );
    expect(sepia[0] > sepia[1] && sepia[1] > sepia[2]).toBe(true);
    expect(iron[2] > iron[1] && iron[1] > iron[0]).toBe(true);
    expect(copper[0] - copper[1]).toBeGreaterThan(sepia[0] - sepia[1]);
  });
});

describe('gradient map', () => {
  const colours = ['#20304a', '#b08050', '#fff2dc'];
  const stops = colours.map((colour, i) => ({ at: [0, 0.4, 1][i], colour }));
  const modes = { srgb: 'rgb', linear: 'lrgb', oklab: 'oklab' } as const;

  it.each(['srgb', 'linear', 'oklab'] as const)("in %s it is culori's", interpolation => {
    const reference = interpolate(
      stops.map(s => [s.colour, s.at] as [string, number]),
      modes[interpolation],
    );
    const rgb = converter('rgb');
    for (let v = 0; v <= 1; v += 1 / 97) {
      const expected = rgb(reference(v));
      own('gradient-map', { stops, interpolation }, grey(v)).forEach((c, i) => {
        expect(Math.abs(c - [expected.r, expected.g, expected.b][i])).toBeLessThan(1 / 255);
      });
    }
  });

  it('takes stops in any order, reversed, and by lightness', () => {
    const shuffled = [stops[2], stops[0], stops[1]];
    expect(own('gradient-map', { stops: shuffled }, grey(0.3))).toEqual(
      own('gradient-map', { stops }, grey(0.3)),
    );
    expect(own('gradient-map', { stops, reverse: true }, grey(0.3))).toEqual(
      own('gradient-map', { stops }, grey(0.7)),
    );
    const L = oklch(grey(0.5)).L;
    expect(own('gradient-map', { stops, index: 'lightness' }, grey(0.5))[0]).toBeCloseTo(
      own('gradient-map', { stops }, grey(L))[0],
      5,
    );
  });

  it('smooth goes through the stops without overshooting', () => {
    for (const { at, colour } of stops) {
      own('gradient-map', { stops, smooth: true }, grey(at)).forEach((v, i) => {
        expect(v).toBeCloseTo(parseHex(colour)[i], 9);
      });
    }
    fc.assert(
      fc.property(unit, v => {
        for (const c of own('gradient-map', { stops, smooth: true }, grey(v))) {
          expect(c).toBeGreaterThanOrEqual(0.12);
          expect(c).toBeLessThanOrEqual(1 + 1e-9);
        }
      }),
    );
  });

  it('at 85 % lets the colour beneath through', () => {
    expect(formatHex({ mode: 'rgb', r: 1, g: 0, b: 0 })).toBe('#ff0000');
    const [r, g] = own('gradient-map', {}, [0.8, 0.2, 0.2]);
    expect(r).toBe(g);
  });
});

describe('filter', () => {
  it('is a product in linear light', () => {
    const glass = parseHex('#d08040').map(decode);
    const through = own('filter', { colour: '#d08040', density: 1, keepLightness: false }, [0.7, 0.6, 0.5]);
    through.forEach((v, i) => expect(decode(v)).toBeCloseTo(decode([0.7, 0.6, 0.5][i]) * glass[i], 5));
    const half = own('filter', { colour: '#d08040', density: 0.5, keepLightness: false }, [0.7, 0.6, 0.5]);
    half.forEach((v, i) =>
      expect(decode(v)).toBeCloseTo((decode([0.7, 0.6, 0.5][i]) * (1 + glass[i])) / 2, 5),
    );
  });

  it('keeps lightness where asked', () => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const kept = own('filter', { colour: '#c06020', density: 0.8 }, [r, g, b]);
        expect(Math.abs(oklch(kept).L - oklch([r, g, b]).L)).toBeLessThan(0.005);
      }),
    );
  });
});

describe('colour table', () => {
  const through = (text: string, rgb: number[], settings = {}) =>
    own('colour-table', { table: 't', ...settings }, rgb, { tableNamed: () => readCube(text) });

  it('1D: linear, each channel its own, within its domain', () => {
    const text = 'LUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 2\n0 0 0\n0.8 0.5 0.5\n1 1 1\n';
    expect(through(text, [0.25, 0.5, 0.5])).toEqual([0.4, 0.5, 0.25].map(v => expect.closeTo(v, 6)));
    expect(through(text, [2, -1, 3])).toEqual([1, 0, 1].map(v => expect.closeTo(v, 6)));
  });

  it('3D: exact at nodes, tetrahedral between, red fastest, comments and odd spacing', () => {
    const lines = ['# made by hand', '', 'TITLE   "odd  spacing"', '  LUT_3D_SIZE\t2'];
    for (const b of [0, 1])
      for (const g of [0, 1]) for (const r of [0, 1]) lines.push(` ${r * 0.9}\t ${g}   ${b * r}  `);
    const text = lines.join('\r\n');
    expect(through(text, [1, 0, 1])).toEqual([0.9, 0, 1].map(v => expect.closeTo(v, 6)));
    // Red over green over blue: walked along red, then green, then blue; the last product is seen at the corner only.
    expect(through(text, [0.8, 0.5, 0.2])).toEqual([0.72, 0.5, 0.2].map(v => expect.closeTo(v, 6)));
    expect(through(text, [0.2, 0.5, 0.8])).toEqual([0.18, 0.5, 0.2].map(v => expect.closeTo(v, 6)));
  });

  it('contrast pivots at mid grey, saturation -1 leaves a grey', () => {
    expect(own('colour-table', { contrast: 1 }, grey(0.6))[0]).toBeCloseTo(0.7, 9);
    const [r, g, b] = own('colour-table', { saturation: -1 }, [0.9, 0.3, 0.1]);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(1e-9);
  });
});

describe('transfer', () => {
  it('is there and back', () => {
    fc.assert(
      fc.property(unit, v => {
        expect(encode(decode(v))).toBeCloseTo(v, 12);
      }),
    );
  });
});
