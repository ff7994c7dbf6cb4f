import { describe, expect, it } from 'vitest';
import { createPlanner } from '../engine/plan';
import { render8 } from '../engine/render';
import { geometryOf } from '../frame/geometry';
import { parseTreatment, type Treatment } from '../treatment/schema';
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
function said(row: Row, treatment: Treatment): string[] {
  const step = treatment.steps.at(-1)!;
  const beneath = { ...treatment, steps: treatment.steps.slice(0, -1) };
  return adviceOn(step, shown(row, beneath), shown(row, treatment), 3).map(a => a.what);
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
  it('is silent for what shows at natural size only: small pictures cannot tell', () => {
    expect(said(greys(20, 230), of({ kind: 'sharpen', settings: { amount: 0.5 } }))).toEqual([]);
    expect(said(greys(250, 255), of({ kind: 'grain', settings: { amount: 0.01 } }))).toEqual([]);
  });
});
