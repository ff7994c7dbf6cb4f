import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stroke } from '../settings/fields';
import { strokeName } from '../masks/stroke-name';
import { addArea, addPart, areaOf } from './areas';
import { hasFound, mend, spreadWith } from './rough-strokes';
import { bareTreatment, type Treatment } from './treatment';
import { parseTreatment } from './schema';

const through = (...points: [number, number][]): Stroke => ({
  points: points.map(([x, y]) => [x, y, 1]),
  radius: 0.01,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});
const across = (y: number) => through([0.2, y], [0.4, y]);
const ring = through([0.2, 0.2], [0.6, 0.2], [0.6, 0.6], [0.2, 0.6], [0.2, 0.21]);

const start = () => addArea(bareTreatment(), 'Thing');
const partsOf = (treatment: Treatment, area: string) => areaOf(treatment, area)!.parts;

describe('a rough stroke on an area', () => {
  it('finds, and mends what was found, in and out', () => {
    const { treatment, area } = start();
    const found = mend(treatment, area, across(0.3), false);
    expect(hasFound(found, area)).toBe(true);
    const mended = mend(mend(found, area, across(0.4), false), area, across(0.7), true);
    expect(partsOf(mended, area)).toEqual([
      {
        kind: 'found',
        op: 'add',
        strokesIn: [across(0.3), across(0.4)],
        strokesOut: [across(0.7)],
      },
    ]);
  });

  it('that is not meant goes around what is, where nothing was found yet', () => {
    const { treatment, area } = start();
    expect(partsOf(mend(treatment, area, ring, true), area)).toEqual([
      { kind: 'found', op: 'add', strokesIn: [], strokesOut: [ring] },
    ]);
  });

  it('that is not meant and goes around nothing takes away what it finds of what was painted, and the next goes on', () => {
    const { treatment, area } = start();
    const painted = addPart(treatment, area, { kind: 'whole', op: 'add' });
    const once = mend(painted, area, across(0.3), true);
    expect(partsOf(once, area)).toEqual([
      { kind: 'whole', op: 'add' },
      { kind: 'found', op: 'subtract', strokesIn: [across(0.3)], strokesOut: [] },
    ]);
    expect(hasFound(once, area)).toBe(false);
    const twice = mend(once, area, across(0.5), true);
    expect(partsOf(twice, area)[1]).toMatchObject({ strokesIn: [across(0.3), across(0.5)] });
    // What is meant again afterwards is found beside it, and mended from then on.
    const meant = mend(twice, area, across(0.8), false);
    expect(partsOf(meant, area)).toHaveLength(3);
    expect(hasFound(meant, area)).toBe(true);
  });

  it('changes nothing where there is no such area, or nothing to take away from', () => {
    const { treatment, area } = start();
    expect(mend(treatment, area, across(0.3), true)).toBe(treatment);
    expect(mend(treatment, 'gone', across(0.3), false)).toBe(treatment);
  });

  it('keeps every stroke that was drawn, once, and gives a treatment that can be read', () => {
    const drawn = fc.record({
      y: fc.integer({ min: 1, max: 900 }),
      isOut: fc.boolean(),
      isRing: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.uniqueArray(drawn, { maxLength: 8, selector: d => d.y }), all => {
        const { treatment, area } = start();
        let made = addPart(treatment, area, { kind: 'whole', op: 'add' });
        const names: string[] = [];
        for (const { y, isOut, isRing } of all) {
          const stroke = isRing
            ? through([0.2, 0.2], [0.6, 0.2], [0.6, 0.6], [0.2, 0.6], [0.2, 0.2 + y / 1e5])
            : across(y / 1000);
          names.push(strokeName(stroke));
          made = mend(made, area, stroke, isOut);
        }
        const kept = partsOf(made, area).flatMap(part =>
          part.kind === 'found' ? [...part.strokesIn, ...part.strokesOut].map(strokeName) : [],
        );
        expect(kept.toSorted()).toEqual(names.toSorted());
        expect(spreadWith(made, area)).toEqual(hasFound(made, area) ? [area] : []);
        expect(parseTreatment(JSON.parse(JSON.stringify(made)))).toEqual(made);
      }),
    );
  });
});
