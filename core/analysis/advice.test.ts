import { describe, expect, it } from 'vitest';
import { createPlanner } from '../engine/plan';
import { render8 } from '../engine/render';
import { geometryOf } from '../frame/geometry';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import { adviceOn, liftBlackBefore } from './advice';

/** A picture of one row, 0..255 grey or colours. */
type Row = number[][];
const greys = (from: number, to: number, count = 200): Row =>
  Array.from({ length: count }, (_, i) =>
    new Array<number>(3).fill(Math.round(from + ((to - from) * i) / (count - 1))),
  );

function shown(row: Row, treatment: Treatment): Uint8Array {
  const codes = Uint16Array.from(row.flat(), v => v * 257);
  const geometry = geometryOf({ width: row.length, height: 1 }, treatment.frame);
  const plan = createPlanner()(treatment, { grey: false, pixels: row.length });
  const out = new Uint8Array(row.length * 3);
  render8(plan, { codes, width: row.length, height: 1, x: 0, y: 0 }, out, 3, {
    grey: false,
    geometry,
    surveys: [],
  });
  return out;
}

const of = (...steps: object[]) => parseTreatment({ format: 'lampwash-treatment', version: 1, steps });

/** What is said about the last step on a picture. */
function said(row: Row, treatment: Treatment, natural = true): string[] {
  const step = treatment.steps.at(-1)!;
  const beneath = { ...treatment, steps: treatment.steps.slice(0, -1) };
  const seen = { before: shown(row, beneath), after: shown(row, treatment), stride: 3 } as const;
  return adviceOn(treatment, step.id, seen, natural ? [seen] : []).map(a => a.what);
}

const split = { kind: 'split-tone', settings: { shadows: { hue: 20, saturation: 0.4 } } };

describe('advice: solid black under a toner', () => {
  const dark = [...greys(0, 0, 40), ...greys(1, 240, 160)];
  it('speaks where much of the picture is solid black', () => {
    expect(said(dark, of(split))).toContain('solid-black');
    expect(
      said(dark, of({ kind: 'baths', settings: { baths: [{ toner: 'selenium', time: 0.5 }] } })),
    ).toContain('solid-black');
  });
  it('is silent on a lifted picture, on a few black pixels, and for steps that do not tone', () => {
    expect(said(greys(24, 240), of(split))).toEqual([]);
    expect(said(greys(0, 250), of(split))).toEqual([]);
    expect(said(dark, of({ kind: 'light', settings: { exposure: -0.2 } }))).toEqual([]);
  });
  it('falls silent when the lift that it offers is taken, which leaves no solid black', () => {
    const treatment = of({ kind: 'mono' }, { ...split, id: 'toner' });
    const lifted = liftBlackBefore(treatment, 'toner');
    expect(lifted.steps.map(s => s.kind)).toEqual(['mono', 'curve', 'split-tone']);
    expect(said(dark, lifted)).toEqual([]);
  });
});

describe('advice: lights clipped by a step', () => {
  it('speaks where a step takes lights to white', () => {
    expect(said(greys(0, 240), of({ kind: 'light', settings: { exposure: 1 } }))).toEqual(['clips-lights']);
  });
  it('is silent where they were white before, and where they stay below', () => {
    const sky = [...greys(10, 200, 150), ...greys(255, 255, 50)];
    expect(
      said(
        sky,
        of({
          kind: 'curve',
          settings: {
            points: {
              all: [
                [0, 0.05],
                [1, 1],
              ],
            },
          },
        }),
      ),
    ).toEqual([]);
    expect(said(greys(0, 150), of({ kind: 'light', settings: { exposure: 0.5 } }))).toEqual([]);
  });
});

describe('advice: a step that does nothing', () => {
  it('speaks where a set step changes nothing in this picture', () => {
    expect(said(greys(20, 230), of({ kind: 'saturation', settings: { amount: 0.6 } }))).toEqual([
      'does-nothing',
    ]);
    const unreached = { ...split, reach: { own: [0, 0, 1, 1], beneath: [0.97, 0.99, 1, 1] } };
    expect(said(greys(20, 200), of(unreached))).toEqual(['does-nothing']);
  });
  it('is silent for one that works, one just added, and one that is off', () => {
    expect(said(greys(20, 230), of(split))).toEqual([]);
    expect(said(greys(20, 230), of({ kind: 'saturation' }))).toEqual([]);
    expect(
      said(greys(20, 230), of({ kind: 'saturation', enabled: false, settings: { amount: 0.6 } })),
    ).toEqual([]);
  });
  it('judges what shows at natural size at natural size, on every place that it is given', () => {
    const grain = of({ kind: 'grain', settings: { amount: 0.4 } });
    // Small, it is not seen; at natural size it is.
    const flat = Uint8Array.from({ length: 300 }, () => 128);
    const small = { before: flat, after: flat, stride: 3 } as const;
    const rough = { ...small, after: flat.map((v, i) => v + ((i * 7) % 9)) };
    const { id } = grain.steps[0];
    expect(adviceOn(grain, id, small)).toEqual([]);
    expect(adviceOn(grain, id, small, [small, rough])).toEqual([]);
    expect(adviceOn(grain, id, small, [small, small]).map(a => a.what)).toEqual(['does-nothing']);
    expect(said(greys(20, 230), of({ kind: 'sharpen', settings: { amount: 0.5 } }), false)).toEqual([]);
  });
  it('is silent while the area of the step is still empty', () => {
    const treatment = parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      masks: [{ id: 'm', parts: [] }],
      steps: [{ kind: 'wash', mask: 'm', settings: { pigment: { kind: 'flat', colour: '#a03020' } } }],
    });
    expect(said(greys(0, 0), treatment)).toEqual([]);
    const whole = { ...treatment, masks: [{ ...treatment.masks[0], invert: true }] };
    expect(said([...greys(0, 0), ...greys(90, 200)], whole)).toEqual(['solid-black']);
  });
});

describe('advice: what a gradient does to the dark end', () => {
  const map = (colours: string[], more: object = {}) =>
    of({
      kind: 'gradient-map',
      ...more,
      settings: {
        stops: colours.map((colour, i) => ({ at: i / (colours.length - 1), colour })),
        ...(more as { settings?: object }).settings,
      },
    });
  const row = greys(10, 245);
  it('speaks of a weak black with its lightness, and not in a mix that keeps tones', () => {
    expect(said(row, map(['#5a4a3a', '#f0e8d8']))).toEqual(['weak-black']);
    expect(said(row, map(['#14110e', '#f0e8d8']))).toEqual([]);
    expect(said(row, map(['#5a4a3a', '#f0e8d8'], { mix: 'color' }))).toEqual([]);
  });
  it('speaks where the dark end is lighter than the next stop, but not of a negative', () => {
    expect(said(row, map(['#606060', '#101010', '#f0f0f0']))).toEqual(['dark-end-lighter']);
    expect(said(row, map(['#f0f0f0', '#101010']))).toEqual([]);
    expect(said(row, map(['#f0f0f0', '#101010', '#606060'], { settings: { reverse: true } }))).toEqual([
      'dark-end-lighter',
    ]);
  });
  it('says nothing of a wash in a mix that keeps tones, whatever its ramp', () => {
    const stops = [
      { at: 0, colour: '#806050' },
      { at: 0.3, colour: '#402010' },
      { at: 1, colour: '#ffffff' },
    ];
    const wash = (more: object, depth = 0) =>
      of({ kind: 'wash', ...more, settings: { pigment: { kind: 'ramp', stops }, depth } });
    expect(said(row, wash({}))).toEqual([]);
    expect(said(row, wash({}, 0.6))).toEqual([]);
    expect(said(row, wash({ mix: 'normal' }))).toContain('dark-end-lighter');
  });
});
