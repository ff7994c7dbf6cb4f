import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { starterBox } from '../colour/pigments';
import type { Stroke } from '../settings/fields';
import { strokeName } from '../masks/stroke-name';
import { areaOf } from './areas';
import { mend, spreadWith } from './rough-strokes';
import { bareTreatment, type Step, type Treatment } from './treatment';
import { parseTreatment } from './schema';
import {
  againOn,
  besideArea,
  leaveAsItIs,
  onTheRest,
  readyToTint,
  tint,
  washesOf,
  ways,
  type Way,
} from './tinting';

let count = 0;
const stroke = (): Stroke => ({
  points: [
    [0.1, 0.001 * ++count, 1],
    [0.2, 0.5, 1],
  ],
  radius: 0.01,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

const foundOf = (treatment: Treatment, step: string) => {
  const part = areaOf(treatment, treatment.steps.find(s => s.id === step)!.mask)!.parts[0];
  if (part.kind !== 'found') throw new Error(`found is ${part.kind}`);
  return part;
};
const names = (strokes: readonly Stroke[]) => strokes.map(strokeName).sort();
const read = (treatment: Treatment) => parseTreatment(JSON.parse(JSON.stringify(treatment)));

describe('tinting in one act', () => {
  it('makes a wash on an area named after the pigment, and goes on with it', () => {
    const [, , , , lips, hair] = starterBox;
    const first = tint(bareTreatment(), null, lips, stroke(), 'thing');
    const [wash] = first.treatment.steps as Step<'wash'>[];
    expect([wash.kind, wash.stage, areaOf(first.treatment, wash.mask)!.name]).toEqual([
      'wash',
      'colour',
      lips.name,
    ]);
    expect([wash.settings.pigment, wash.settings.depth]).toEqual([lips.pigment, lips.depth]);
    const more = tint(first.treatment, first.step, lips, stroke(), 'thing');
    expect(more.step).toBe(first.step);
    expect(foundOf(more.treatment, more.step).strokesIn).toHaveLength(2);
    const next = tint(more.treatment, more.step, hair, stroke(), 'thing');
    expect(next.step).not.toBe(first.step);
    expect(next.treatment.steps).toHaveLength(2);
    // Without the wash at hand the same pigment begins another one.
    expect(tint(next.treatment, null, lips, stroke(), 'thing').treatment.steps).toHaveLength(3);
    expect(read(next.treatment)).toEqual(next.treatment);
  });

  it('paints on what it was made ready for', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(3), { maxLength: 6 }), fc.nat(3), (before, last) => {
        let now = { treatment: bareTreatment(), step: null as string | null };
        for (const p of before) now = tint(now.treatment, now.step, starterBox[p], stroke(), 'edges');
        const ready = readyToTint(now.treatment, now.step, starterBox[last]);
        const painted = tint(now.treatment, now.step, starterBox[last], stroke(), 'edges');
        const wash = painted.treatment.steps.find(s => s.id === painted.step)!;
        expect(wash.mask).toBe(ready.area);
        expect(ready.treatment.steps).toEqual(painted.treatment.steps);
      }),
    );
  });
});

describe('strokes that spread', () => {
  type Act = { does: 'tint' | 'leave' | 'mend' | 'choose'; which: number };
  const acts = fc.array(
    fc.record<Act>({
      does: fc.constantFrom('tint', 'tint', 'tint', 'leave', 'mend', 'choose'),
      which: fc.nat(5),
    }),
    { minLength: 1, maxLength: 14 },
  );

  it('are each the limits of all others, however they were added', () => {
    fc.assert(
      fc.property(acts, all => {
        let treatment = bareTreatment();
        let at: string | null = null;
        /** Whose each stroke is, by its name; null where all is left as it is. */
        const meant = new Map<string, string | null>();
        for (const { does, which } of all) {
          const drawn = stroke();
          const washes = washesOf(treatment);
          if (does === 'tint') {
            ({ treatment, step: at } = tint(treatment, at, starterBox[which], drawn, 'spread'));
            meant.set(strokeName(drawn), at);
          } else if (does === 'choose') at = washes[which % Math.max(1, washes.length)]?.id ?? at;
          else if (does === 'leave') {
            const left = leaveAsItIs(treatment, at, drawn);
            expect(left === null).toBe(at === null);
            if (left) {
              treatment = left;
              meant.set(strokeName(drawn), null);
            }
          } else if (at !== null) {
            treatment = mend(treatment, washes.find(s => s.id === at)!.mask!, drawn, false);
            meant.set(strokeName(drawn), at);
          }
        }
        const washes = washesOf(treatment);
        for (const { id, mask } of washes) {
          const found = foundOf(treatment, id);
          const own = [...meant].filter(([, whose]) => whose === id).map(([name]) => name);
          const others = [...meant].filter(([, whose]) => whose !== id).map(([name]) => name);
          expect(names(found.strokesIn)).toEqual(own.sort());
          expect(names(found.strokesOut)).toEqual(others.sort());
          expect(spreadWith(treatment, mask!).sort()).toEqual(washes.map(s => s.mask!).sort());
        }
        // Each pigment has one wash, and all of it reads back as it is.
        const pigments = washes.map(s => JSON.stringify((s.settings as Step<'wash'>['settings']).pigment));
        expect(new Set(pigments).size).toBe(pigments.length);
        expect(read(treatment)).toEqual(treatment);
      }),
      { numRuns: 150 },
    );
  });

  it('go on when a wash among them is removed: what was its own is left as it is', () => {
    let made = tint(bareTreatment(), null, starterBox[0], stroke(), 'spread');
    made = tint(made.treatment, made.step, starterBox[1], stroke(), 'spread');
    made = tint(made.treatment, made.step, starterBox[2], stroke(), 'spread');
    const [first] = washesOf(made.treatment);
    const steps = made.treatment.steps.filter(s => s.id !== first.id);
    const masks = made.treatment.masks.filter(m => m.id !== first.mask);
    const rest = { ...made.treatment, steps, masks };
    const drawn = stroke();
    const next = tint(rest, made.step, starterBox[3], drawn, 'spread');
    expect(foundOf(next.treatment, next.step).strokesOut).toHaveLength(3);
    for (const { id } of washesOf(next.treatment).slice(0, 2)) {
      expect(names(foundOf(next.treatment, id).strokesOut)).toContain(strokeName(drawn));
    }
  });
});

describe('washes beside a wash', () => {
  const two = (way: Way) => {
    const one = tint(bareTreatment(), null, starterBox[4], stroke(), way);
    return tint(one.treatment, one.step, starterBox[5], stroke(), way);
  };

  it.each(ways)('lie on the same area, on its inverse, and on the rest of the picture, tinted by %s', way => {
    const made = two(way);
    const mask = made.treatment.steps.find(s => s.id === made.step)!.mask;
    const again = againOn(made.treatment, made.step)!;
    expect(again.treatment.steps.find(s => s.id === again.step)!.mask).toBe(mask);
    const beside = besideArea(made.treatment, made.step, starterBox[6])!;
    const inverse = areaOf(beside.treatment, beside.treatment.steps.find(s => s.id === beside.step)!.mask)!;
    expect([inverse.invert, inverse.parts]).toEqual([true, [{ kind: 'mask', op: 'add', mask }]]);
    const rest = onTheRest(made.treatment, starterBox[6])!;
    const all = areaOf(rest.treatment, rest.treatment.steps.find(s => s.id === rest.step)!.mask)!;
    expect(all.invert).toBe(true);
    expect(all.parts.map(p => p.kind === 'mask' && p.mask)).toEqual(
      washesOf(made.treatment).map(s => s.mask),
    );
    for (const { treatment } of [again, beside, rest]) expect(read(treatment)).toEqual(treatment);
    expect(onTheRest(bareTreatment(), starterBox[0])).toBeNull();
  });
});
