import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mixNames } from '../colour/mixes';
import { picture } from '../testing/pictures';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { reachAt } from '../masks/reach';
import { exactly } from './lay';
import type { Table } from './bake';
import { createPlanner } from './plan';
import { render16, render8 } from './render';
import type { Tile } from '../frame/framing';

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const signed = fc.double({ min: -1, max: 1, noNaN: true });
const toneOf = fc.record({ hue: fc.double({ min: 0, max: 360, noNaN: true }), saturation: unit });
const reach = fc.tuple(unit, unit, unit, unit).map(r => r.slice().sort((a, b) => a - b));

const anyStep = fc.oneof(
  fc.record({
    kind: fc.constant('light'),
    settings: fc.record({ exposure: fc.double({ min: -4, max: 4, noNaN: true }) }),
  }),
  fc.record({
    kind: fc.constant('mono'),
    settings: fc.record({
      method: fc.constantFrom('luminance', 'channels', 'lightness'),
      channels: fc.record({ red: signed, green: unit, blue: unit, constant: signed }),
    }),
  }),
  fc.record({
    kind: fc.constant('split-tone'),
    settings: fc.record({
      shadows: toneOf,
      midtones: toneOf,
      highlights: toneOf,
      balance: signed,
      crossover: unit,
    }),
  }),
);
const laid = fc.record({
  strength: unit,
  mix: fc.constantFrom(...mixNames),
  enabled: fc.boolean(),
  reach: fc.record({ own: reach, beneath: reach }),
});
const anyTreatment = fc
  .record({
    strength: fc.oneof(fc.constant(1), unit),
    steps: fc.array(
      fc.tuple(anyStep, fc.option(laid, { nil: {} })).map(([step, how]) => ({ ...step, ...how })),
      { maxLength: 5 },
    ),
  })
  .map(t => parseTreatment({ format: 'lampwash-treatment', version: 1, ...t }));

const read = (steps: object[], rest: object = {}) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, ...rest });

function rendered16(treatment: Treatment, tile: Tile, grey = false, pixels = 1e9): Uint16Array {
  const out = new Uint16Array(tile.codes.length);
  render16(createPlanner()(treatment, { grey, pixels }), tile, out, { grey });
  return out;
}

const classic = read([
  { kind: 'light', settings: { exposure: 0.4 } },
  { kind: 'mono', settings: { method: 'channels', channels: { red: 0.6, green: 0.5, blue: -0.1 } } },
  {
    kind: 'split-tone',
    strength: 0.8,
    settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.5 } },
  },
]);

describe('laying on', () => {
  it('reach is a trapezoid, with hard edges where its ends meet', () => {
    expect([0, 0.2, 0.25, 0.5, 0.9, 1].map(t => reachAt([0.2, 0.3, 0.8, 1], t))).toEqual([
      0,
      0,
      expect.closeTo(0.5, 9),
      1,
      expect.closeTo(0.5, 9),
      0,
    ]);
    expect([0.39, 0.4, 0.6, 0.61].map(t => reachAt([0.4, 0.4, 0.6, 0.6], t))).toEqual([0, 1, 1, 0]);
    expect([-0.2, 0, 1, 1.3].map(t => reachAt([0, 0, 1, 1], t))).toEqual([1, 1, 1, 1]);
  });

  it('strength 0 and off are as if the step were not there', () => {
    fc.assert(
      fc.property(anyTreatment, unit, unit, unit, (t, r, g, b) => {
        const shut = {
          ...t,
          steps: t.steps.map((s, i) => (i % 2 ? { ...s, enabled: false } : { ...s, strength: 0 })),
        };
        const c = Float64Array.of(r, g, b);
        exactly(shut)(c);
        expect(Array.from(c)).toEqual([r, g, b]);
        exactly({ ...t, strength: 0 })(c);
        expect(Array.from(c)).toEqual([r, g, b]);
      }),
    );
  });

  it('strength goes straight from beneath to own', () => {
    const at = (strength: number) => {
      const c = Float64Array.of(0.7, 0.3, 0.2);
      exactly(read([{ kind: 'mono', strength }]))(c);
      return Array.from(c);
    };
    const [none, half, full] = [at(0), at(0.5), at(1)];
    half.forEach((v, i) => expect(v).toBeCloseTo((none[i] + full[i]) / 2, 9));
  });
});

describe('plan', () => {
  it('bakes colour into a grid and what follows the conversion into a ramp', () => {
    const kinds = (t: Treatment, grey = false) =>
      createPlanner()(t, { grey, pixels: 1e9 }).passes.map(p =>
        p.kind === 'points' ? p.table.kind : p.kind,
      );
    expect(kinds(classic)).toEqual(['grid', 'ramp']);
    expect(kinds(classic, true)).toEqual(['ramp']);
    expect(kinds(read([]))).toEqual([]);
    expect(kinds(read([{ kind: 'mono', strength: 0.9 }]))).toEqual(['grid']);
  });

  it('is within 1/255 of the exact steps on every pixel, and within 0.5/255 where it bakes', () => {
    fc.assert(
      fc.property(anyTreatment, t => {
        const tile = picture(24, 16);
        const out = rendered16(t, tile);
        const point = exactly(t);
        const c = new Float64Array(3);
        for (let i = 0; i < out.length; i += 3) {
          for (let k = 0; k < 3; k++) c[k] = tile.codes[i + k] / 65535;
          point(c);
          for (let k = 0; k < 3; k++) {
            const exact = Math.min(1, Math.max(0, c[k]));
            // Two tables may follow one another, each within a half; the second may rise a little faster than what it reads.
            expect(Math.abs(out[i + k] / 65535 - exact) * 255).toBeLessThan(1.05);
          }
        }
      }),
      { numRuns: 25, interruptAfterTimeLimit: 90_000 },
    );
  }, 120_000);

  it('is as close where toned colours come to the edge of what sRGB holds, in cells that one probe would miss', () => {
    const range = { hue: 0, saturation: 0.455 };
    const none = { hue: 0, saturation: 0 };
    const settings = { shadows: range, midtones: none, highlights: none, balance: -0.3, crossover: 0.05 };
    const t = read([{ kind: 'split-tone', settings }]);
    // Saturated reds and colours of every kind, sixty thousand of them.
    const codes = Uint16Array.from({ length: 180_000 }, (_, i) => {
      const [p, k] = [Math.floor(i / 3), i % 3];
      return (p * 7919 * (k + 1) * 31 + k * 12345) % 65536;
    });
    const out = rendered16(t, { codes, width: 60_000, height: 1, x: 0, y: 0 });
    const point = exactly(t);
    const c = new Float64Array(3);
    let worst = 0;
    for (let i = 0; i < out.length; i += 3) {
      for (let k = 0; k < 3; k++) c[k] = codes[i + k] / 65535;
      point(c);
      for (let k = 0; k < 3; k++) {
        worst = Math.max(worst, Math.abs(out[i + k] / 65535 - Math.min(1, Math.max(0, c[k]))) * 255);
      }
    }
    expect(worst).toBeLessThan(0.8);
  });

  it('keeps its tables: the same steps are not baked twice', () => {
    const planner = createPlanner();
    const first = planner(classic, { grey: false, pixels: 1e9 });
    const moved = { ...classic, steps: classic.steps.slice() };
    moved.steps[2] = { ...moved.steps[2], strength: 0.3 };
    const second = planner(moved, { grey: false, pixels: 1e9 });
    const table = (plan: typeof first, i: number) => (plan.passes[i] as { table: Table }).table;
    expect(table(second, 0) === table(first, 0)).toBe(true);
    expect(table(second, 1) === table(first, 1)).toBe(false);
    expect(second.key).not.toBe(first.key);
  });

  it('a name, an id or a place on the line does not change the key', () => {
    const planner = createPlanner();
    const named = { ...classic, steps: classic.steps.map(s => ({ ...s, name: 'x', id: `q${s.id}` })) };
    const context = { grey: false, pixels: 1e9 };
    expect(planner(named, context).key).toBe(planner(classic, context).key);
  });
});

describe('render', () => {
  it('a bare picture comes out as it went in', () => {
    const tile = picture(40, 30);
    expect(rendered16(read([]), tile)).toEqual(tile.codes);
    const codes = Uint16Array.from({ length: 768 }, (_, i) => Math.floor(i / 3) * 257);
    const out = new Uint8Array(768);
    const plan = createPlanner()(read([]), { grey: false, pixels: 1e9 });
    render8(plan, { codes, width: 256, height: 1, x: 5, y: 9 }, out, 3, { grey: false });
    expect(Array.from(out)).toEqual(Array.from({ length: 768 }, (_, i) => Math.floor(i / 3)));
  });

  it('tiled equals whole to the last bit, dither included', () => {
    fc.assert(
      fc.property(anyTreatment, fc.integer({ min: 5, max: 20 }), (t, size) => {
        const whole = picture(37, 29);
        const plan = createPlanner()(t, { grey: false, pixels: 1e9 });
        const out = new Uint8Array(37 * 29 * 4);
        render8(plan, whole, out, 4, { grey: false });
        for (let y = 0; y < 29; y += size) {
          for (let x = 0; x < 37; x += size) {
            const width = Math.min(size, 37 - x);
            const height = Math.min(size, 29 - y);
            const codes = new Uint16Array(width * height * 3);
            for (let row = 0; row < height; row++) {
              const from = ((y + row) * 37 + x) * 3;
              codes.set(whole.codes.subarray(from, from + width * 3), row * width * 3);
            }
            const part = new Uint8Array(width * height * 4);
            render8(plan, { codes, width, height, x, y }, part, 4, { grey: false });
            for (let row = 0; row < height; row++) {
              const from = ((y + row) * 37 + x) * 4;
              expect(part.subarray(row * width * 4, (row + 1) * width * 4)).toEqual(
                out.subarray(from, from + width * 4),
              );
            }
          }
        }
      }),
      { numRuns: 15, interruptAfterTimeLimit: 90_000 },
    );
  }, 120_000);

  it('neutral stays neutral through light and mono, in 8 bits with dither', () => {
    const t = read([{ kind: 'light', settings: { exposure: -0.7 } }, { kind: 'mono' }]);
    const tile = picture(64, 8, true);
    for (const grey of [false, true]) {
      const plan = createPlanner()(t, { grey, pixels: 1e9 });
      const out = new Uint8Array(64 * 8 * 3);
      render8(plan, tile, out, 3, { grey });
      for (let i = 0; i < out.length; i += 3)
        expect(out[i] === out[i + 1] && out[i] === out[i + 2]).toBe(true);
    }
  });

  it('a grey picture and the same one taken as colour come out alike', () => {
    const tile = picture(64, 8, true);
    const a = rendered16(classic, tile, true);
    const b = rendered16(classic, tile, false);
    a.forEach((v, i) => expect(Math.abs(v - b[i]) / 257).toBeLessThan(1));
  });

  it('a neutral ramp never folds', () => {
    const codes = Uint16Array.from({ length: 4096 * 3 }, (_, i) => Math.floor(i / 3) * 16);
    const out = rendered16(classic, { codes, width: 4096, height: 1, x: 0, y: 0 });
    let last = -1;
    for (let i = 0; i < out.length; i += 3) {
      const y = 0.2126 * out[i] + 0.7152 * out[i + 1] + 0.0722 * out[i + 2];
      expect(y).toBeGreaterThan(last - 4);
      last = y;
    }
  });

  it('the draft of a dragged control lies close to the final picture', () => {
    const tile = picture(60, 40);
    const out = new Uint16Array(tile.codes.length);
    const plan = createPlanner()(classic, { grey: false, pixels: 1e9, draft: true });
    render16(plan, tile, out, { grey: false });
    const full = rendered16(classic, tile);
    const errors = Array.from(out, (v, i) => Math.abs(v - full[i]) / 257).sort((a, b) => a - b);
    expect(errors[Math.floor(errors.length * 0.99)]).toBeLessThan(1.5);
  });
});
