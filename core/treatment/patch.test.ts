import fc from 'fast-check';
import fastJsonPatch from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { addArea, addStroke, removeArea } from './areas';
import { addStep, newStep, nudgeStep, removeStep } from './edit';
import { patchBetween, patched, PatchError, type Operation } from './patch';
import { bareTreatment, MOST_OPERATIONS, type Step, type Treatment } from './treatment';

const stroke = (x: number) => ({
  points: [[x, 0.5, 1] as [number, number, number]],
  radius: 0.02,
  hardness: 0.5,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

/** Values as treatments have them: the words of the package that compares are no keys of theirs. */
const anyJson = fc.object({
  key: fc.constantFrom('a', 'b', 'c', 'd/e', 'f~g'),
  values: [fc.integer(), fc.string(), fc.boolean(), fc.constant(null)],
  maxDepth: 4,
});

describe('a patch between two treatments', () => {
  it('turns any treatment into any other', () => {
    fc.assert(
      fc.property(anyTreatment({ most: 8 }), anyTreatment({ most: 8 }), (a, b) => {
        expect(patched(a, JSON.parse(JSON.stringify(patchBetween(a, b))))).toEqual(b);
      }),
      { numRuns: 150 },
    );
  });

  it('is nothing between equal ones, and fits only what it was made from', () => {
    const t = addStep(bareTreatment(), newStep(bareTreatment(), 'mono') as Step);
    expect(patchBetween(t, structuredClone(t))).toEqual([]);
    const removal = patchBetween(t, removeStep(t, 's1'));
    expect(() => patched(bareTreatment(), removal)).toThrow(PatchError);
    expect(() => patched(t, [{ op: 'replace', path: '/none/at/all', value: 1 }])).toThrow(PatchError);
    expect(() => patched(t, [{ op: 'add', path: '/__proto__/polluted', value: 1 }])).toThrow(PatchError);
  });

  it('says only what changed, whatever else there is, and leaves that the same object', () => {
    const { area, ...began } = addArea(bareTreatment());
    let { treatment } = began;
    for (let i = 0; i < 300; i++) treatment = addStroke(treatment, area, stroke(i / 300));
    const more = addStroke(treatment, area, stroke(0.123));
    const patch = patchBetween(treatment, more);
    expect(JSON.stringify(patch).length).toBeLessThan(300);
    const again = patched(treatment, patch);
    expect(again).toEqual(more);
    const strokes = (t: Treatment) => (t.masks[0].parts[0] as { strokes: unknown[] }).strokes;
    expect(strokes(again)[7]).toBe(strokes(treatment)[7]);
  });

  it('leaves the patch and what it is laid on as they are, whatever it does to what it has put in', () => {
    const before = { steps: [{ a: 1 }], masks: [] };
    const patch: Operation[] = [
      { op: 'add', path: '/steps/0', value: { b: { c: 1 } } },
      { op: 'replace', path: '/steps/0/b/c', value: 2 },
      { op: 'remove', path: '/steps/1/a' },
    ];
    const [was, said] = [structuredClone(before), structuredClone(patch)];
    expect(patched<unknown>(before, patch)).toEqual({ steps: [{ b: { c: 2 } }, {}], masks: [] });
    expect([before, patch]).toEqual([was, said]);
  });

  it('takes time by its length alone: twenty thousand operations in a row', () => {
    const many = (count: number): Operation[] =>
      Array.from({ length: count }, (_, i) => ({ op: 'add', path: '/steps/0', value: { i } }));
    const made = patched<{ steps: unknown[] }>({ steps: [] }, many(MOST_OPERATIONS));
    expect(made.steps).toHaveLength(MOST_OPERATIONS);
    // What would be more says the whole instead.
    const rest = Array.from({ length: MOST_OPERATIONS + 1 }, (_, i) => ({ id: `n${i}` }));
    const long = patchBetween({ steps: [] }, { steps: rest });
    expect(long).toHaveLength(1);
    expect(patched({ steps: [] }, long)).toEqual({ steps: rest });
  });

  it('lays itself on like the package for RFC 6902, on values of any shape', () => {
    fc.assert(
      fc.property(anyJson, anyJson, (a, b) => {
        const [before, after] = JSON.parse(JSON.stringify([{ a }, { a: b }])) as [object, object];
        const patch = patchBetween(before, after);
        const theirs = fastJsonPatch.applyPatch(structuredClone(before), structuredClone(patch)).newDocument;
        expect(patched(before, patch)).toEqual(theirs);
        expect(theirs).toEqual(after);
      }),
    );
  });

  it('says little where something is put in or taken out before others', () => {
    let t = bareTreatment();
    for (const kind of ['light', 'mono', 'curve', 'tint', 'vignette', 'grain'] as const) {
      t = addStep(t, newStep(t, kind) as Step);
    }
    const whole = JSON.stringify(t).length;
    for (const next of [
      removeStep(t, 's1'),
      addStep(t, newStep(t, 'white-balance') as Step),
      nudgeStep(t, 's4', -1),
    ]) {
      expect(patched(t, patchBetween(t, next))).toEqual(next);
      expect(JSON.stringify(patchBetween(t, next)).length).toBeLessThan(whole / 3);
    }
    const first = addArea(t);
    let two = addArea(first.treatment);
    for (let i = 0; i < 100; i++)
      two = { ...two, treatment: addStroke(two.treatment, two.area, stroke(i / 100)) };
    const without = removeArea(two.treatment, first.area);
    expect(JSON.stringify(patchBetween(two.treatment, without)).length).toBeLessThan(200);
    expect(patched(two.treatment, patchBetween(two.treatment, without))).toEqual(without);
  });
});
