import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../frame/geometry';
import { createPlanner } from '../engine/plan';
import { render8 } from '../engine/render';
import {
  addArea,
  addInverse,
  addPart,
  addStroke,
  areaOf,
  changeArea,
  foundUpon,
  layOn,
  mayStandOn,
  removeArea,
  removePart,
  showingArea,
  sparing,
  usersOf,
} from './areas';
import { paint, pixelAt, read, rendered } from '../testing/pictures';
import type { Stroke } from '../settings/fields';
import { bareTreatment, type Treatment } from './treatment';
import { parseTreatment } from './schema';

const [WIDTH, HEIGHT] = [60, 40];

function shown(treatment: Treatment): (x: number, y: number) => number[] {
  const codes = new Uint16Array(WIDTH * HEIGHT * 3).fill(128 * 257);
  const geometry = geometryOf({ width: WIDTH, height: HEIGHT }, treatment.frame);
  const plan = createPlanner()(treatment, { grey: false, pixels: WIDTH * HEIGHT });
  const out = new Uint8Array(WIDTH * HEIGHT * 3);
  const tile = { codes, width: WIDTH, height: HEIGHT, x: 0, y: 0 };
  render8(plan, tile, out, 3, { grey: false, geometry, surveys: [] });
  return (x, y) => [...out.subarray((y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3)];
}

const stroke = (x: number, y: number, more: Partial<Stroke> = {}): Stroke => ({
  points: [[x, y, 1]],
  radius: 0.12,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
  ...more,
});

/** A wash on an area painted in the middle. */
function painted() {
  const { treatment, area } = addArea(
    parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      steps: [{ id: 's1', kind: 'wash', settings: { pigment: { kind: 'flat', colour: '#c03020' } } }],
    }),
    'Hull',
  );
  return { area, treatment: addStroke(layOn(treatment, 's1', area), area, stroke(0.5, 0.5)) };
}
const coloured = ([r, , b]: number[]) => r - b > 20;

describe('areas', () => {
  it('are named, each by a name of its own, and read back', () => {
    const one = addArea(bareTreatment());
    const two = addArea(one.treatment);
    const three = addArea(addArea(two.treatment, 'Hull').treatment, 'Hull');
    expect(three.treatment.masks.map(m => m.name)).toEqual(['Area 1', 'Area 2', 'Hull', 'Hull 2']);
    expect(new Set(three.treatment.masks.map(m => m.id)).size).toBe(4);
    expect(parseTreatment(JSON.parse(JSON.stringify(three.treatment)))).toEqual(three.treatment);
  });

  it('are painted, taken away from and painted again; taking away after adding leaves nothing', () => {
    const { treatment, area } = painted();
    expect(coloured(shown(treatment)(30, 20))).toBe(true);
    expect(coloured(shown(treatment)(5, 5))).toBe(false);
    const away = addStroke(treatment, area, stroke(0.5, 0.5, { erase: true, radius: 0.2 }));
    expect(shown(away)(30, 20)).toEqual([128, 128, 128]);
    const again = addStroke(away, area, stroke(0.5, 0.5, { radius: 0.05 }));
    expect(coloured(shown(again)(30, 20))).toBe(true);
    expect(areaOf(again, area)!.parts).toHaveLength(1);
  });

  it('take away from other parts without beginning anew', () => {
    const { treatment, area } = painted();
    const shape = changeArea(treatment, area, { parts: [{ kind: 'whole', op: 'add' }] });
    const hole = addStroke(shape, area, stroke(0.5, 0.5, { erase: true }));
    const at = shown(hole);
    expect(at(30, 20)).toEqual([128, 128, 128]);
    expect(coloured(at(4, 4))).toBe(true);
    const more = addStroke(hole, area, stroke(0.1, 0.5, { erase: true }));
    expect(areaOf(more, area)!.parts).toHaveLength(2);
    expect(shown(more)(6, 20)).toEqual([128, 128, 128]);
    // The hole is painted over again.
    expect(coloured(shown(addStroke(more, area, stroke(0.5, 0.5)))(30, 20))).toBe(true);
    // Nothing is taken from an empty area.
    const empty = addArea(bareTreatment());
    expect(addStroke(empty.treatment, empty.area, stroke(0.5, 0.5, { erase: true }))).toBe(empty.treatment);
  });

  it('are reused: the inverse follows, and one stands on the other', () => {
    const { treatment, area } = painted();
    const made = addInverse(treatment, area);
    const both = layOn(made.treatment, 's1', made.area);
    expect(areaOf(both, made.area)!.name).toBe('Not Hull');
    expect(coloured(shown(both)(30, 20))).toBe(false);
    expect(coloured(shown(both)(4, 4))).toBe(true);
    const moved = addStroke(both, area, stroke(0.05, 0.08));
    expect(coloured(shown(moved)(4, 4))).toBe(false);
    expect(mayStandOn(moved, made.area, area)).toBe(true);
    expect(mayStandOn(moved, area, made.area)).toBe(false);
    expect(mayStandOn(moved, area, area)).toBe(false);
    expect(usersOf(moved, area).areas.map(m => m.name)).toEqual(['Not Hull']);
    expect(usersOf(moved, made.area).steps.map(s => s.id)).toEqual(['s1']);
  });

  it('are removed with what stood on them switched off, never spread over the whole picture', () => {
    const { treatment, area } = painted();
    const made = addInverse(treatment, area);
    const gone = removeArea(made.treatment, area);
    expect(gone.masks.map(m => m.name)).toEqual(['Not Hull']);
    expect(gone.masks[0].parts).toEqual([]);
    expect(gone.steps[0]).toMatchObject({ mask: null, enabled: false });
    expect(parseTreatment(JSON.parse(JSON.stringify(gone)))).toEqual(gone);
  });

  it('never begin with a part that takes away, whatever is taken out', () => {
    const { treatment, area } = painted();
    const parts = addPart(
      addPart(treatment, area, { kind: 'tones', op: 'subtract', range: [0, 0, 0.3, 0.4] }),
      area,
      {
        kind: 'whole',
        op: 'intersect',
      },
    );
    expect(areaOf(removePart(parts, area, 0), area)!.parts).toEqual([]);
    expect(areaOf(removePart(parts, area, 1), area)!.parts).toHaveLength(2);
  });

  it('stay valid through any sequence of edits', () => {
    const edit = fc.record({
      what: fc.constantFrom('add', 'erase', 'part', 'inverse', 'remove', 'part out'),
      x: fc.double({ min: 0, max: 1, noNaN: true }),
      n: fc.nat(5),
    });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 14 }), edits => {
        let { treatment } = painted();
        for (const { what, x, n } of edits) {
          const area = treatment.masks[n % Math.max(1, treatment.masks.length)]?.id;
          if (area === undefined) treatment = addArea(treatment).treatment;
          else if (what === 'add' || what === 'erase') {
            treatment = addStroke(treatment, area, stroke(x, x, { erase: what === 'erase' }));
          } else if (what === 'part') {
            const op = (['add', 'subtract', 'intersect'] as const)[n % 3];
            treatment = addPart(treatment, area, { kind: 'tones', op, range: [0, x / 2, x, 1] });
          } else if (what === 'inverse') ({ treatment } = addInverse(treatment, area));
          else if (what === 'remove') treatment = removeArea(treatment, area);
          else treatment = removePart(treatment, area, n);
        }
        expect(parseTreatment(JSON.parse(JSON.stringify(treatment)))).toEqual(treatment);
      }),
    );
  });
});

describe('an area shown', () => {
  it('is a film, grey alone, a line at its edge, or not shown', () => {
    const { treatment, area } = painted();
    const film = shown(showingArea(treatment, area, 'film', '#20d0b0'));
    expect(film(30, 20)[1]).toBeGreaterThan(shown(treatment)(30, 20)[1] + 20);
    expect(film(4, 4)).toEqual([128, 128, 128]);
    const grey = shown(showingArea(treatment, area, 'grey', '#20d0b0'));
    expect(grey(30, 20)).toEqual([255, 255, 255]);
    expect(grey(4, 4)).toEqual([0, 0, 0]);
    const edge = shown(showingArea({ ...treatment, steps: [] }, area, 'edge', '#20d0b0', 0.05));
    expect(edge(30, 20)).toEqual([128, 128, 128]);
    expect(edge(4, 4)).toEqual([128, 128, 128]);
    const lit = Array.from({ length: WIDTH }, (_, x) => edge(x, 20)).filter(([r]) => r < 120).length;
    expect(lit).toBeGreaterThan(0);
    expect(showingArea(treatment, area, 'off', '#20d0b0')).toBe(treatment);
  });

  it('is shown in grey as it is for the step that is laid through it, whatever it reads', () => {
    // A ramp from black to white; the area is its middle tones beneath a step that then makes them black.
    const strip = paint(100, 10, x => [x, x, x]);
    const base = read(
      [
        {
          kind: 'curve',
          settings: {
            points: {
              all: [
                [0, 0],
                [1, 0.5],
              ],
            },
          },
        },
        {
          kind: 'wash',
          mask: 'm',
          mix: 'normal',
          settings: { pigment: { kind: 'flat', colour: '#000000' } },
        },
        { kind: 'levels', stage: 'colour', settings: { gamma: 3 } },
      ],
      { masks: [{ id: 'm', parts: [{ kind: 'tones', range: [0.2, 0.25, 0.35, 0.4] }] }] },
    );
    const seen = rendered(showingArea(base, 'm', 'grey', '#20d0b0'), strip, { pixels: 1000 });
    // The curve halves the tones: 0.3 beneath the wash is 0.6 of the ramp.
    expect(pixelAt(seen, 60, 5)[0]).toBeGreaterThan(0.99);
    expect(pixelAt(seen, 30, 5)[0]).toBeLessThan(0.01);
    expect(pixelAt(seen, 90, 5)[0]).toBeLessThan(0.01);
    // By hue it is read from the photograph, also behind a conversion.
    const reds = paint(100, 10, x => (x < 0.5 ? [0.7, 0.2, 0.2] : [0.2, 0.3, 0.7]));
    const hued = read([{ kind: 'mono' }, { kind: 'wash', mask: 'm' }], {
      masks: [{ id: 'm', parts: [{ kind: 'hues', centre: 0, width: 40 }] }],
    });
    const found = rendered(showingArea(hued, 'm', 'grey', '#20d0b0'), reds, { pixels: 1000 });
    expect(pixelAt(found, 20, 5)[0]).toBeGreaterThan(0.99);
    expect(pixelAt(found, 80, 5)[0]).toBeLessThan(0.01);
  });

  it('that are found are seen alone in a colour upon paper; others are not', () => {
    const { treatment, area } = painted();
    const upon = (made: Treatment, id: string) =>
      foundUpon(made, areaOf(made, id)!, made.masks, '#c0c0c0', '#205080');
    expect(upon(treatment, area)).toBeNull();
    const found = addPart(treatment, area, {
      kind: 'found',
      op: 'add',
      strokesIn: [stroke(0.25, 0.5, { radius: 0.03 })],
      strokesOut: [],
    });
    const inverse = addInverse(found, area);
    const shownAlone = upon(found, area)!;
    expect(parseTreatment(JSON.parse(JSON.stringify(shownAlone)))).toEqual(shownAlone);
    expect(shownAlone.masks).toHaveLength(1);
    expect(upon(inverse.treatment, inverse.area)!.masks).toHaveLength(2);
    const tones = addPart(found, area, { kind: 'tones', op: 'add', range: [0, 0, 0.5, 0.5] });
    expect(upon(tones, area)).toBeNull();
    // The left half, dark, is found by a stroke on it.
    const halves = paint(120, 80, x => Array<number>(3).fill(x < 0.5 ? 0.2 : 0.8));
    const seen = rendered(upon(removePart(found, area, 0), area)!, halves, { pixels: 1000 });
    expect(pixelAt(seen, 20, 40).map(v => Math.round(v * 255))).toEqual([0x20, 0x50, 0x80]);
    expect(pixelAt(seen, 100, 40).map(v => Math.round(v * 255))).toEqual([0xc0, 0xc0, 0xc0]);
  });
});

describe('a step on all but what is painted out', () => {
  it('gets an area of the whole picture; one that has an area keeps it', () => {
    const treatment = read([{ id: 'a', kind: 'grain' }]);
    const spared = sparing(treatment, 'a');
    const [step] = spared.steps;
    expect(spared.masks.find(m => m.id === step.mask)?.parts).toEqual([{ kind: 'whole', op: 'add' }]);
    expect(sparing(spared, 'a')).toBe(spared);
    expect(sparing(treatment, 'gone')).toBe(treatment);
  });
});
