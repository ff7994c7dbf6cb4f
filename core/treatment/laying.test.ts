import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { picture, read, rendered } from '../testing/pictures';
import { stages } from '../steps/define';
import { layTreatment, partOf, type Laying } from './laying';
import { bareTreatment, MOST_STEPS, type Treatment } from './treatment';
import { parseTreatment } from './schema';

/** Treatments taken from one photograph and laid on another. */

const source = picture(20, 14);
const codesOf = (treatment: Treatment) => rendered(treatment, source, { pixels: 1 }).codes;
const all: Laying = { how: 'instead', frame: true, painted: true };
const treatments = () => anyTreatment({ most: 5 });
const layings = fc.record<Laying>({
  how: fc.constantFrom('instead', 'added'),
  frame: fc.boolean(),
  painted: fc.boolean(),
  as: fc.option(
    fc.record({ name: fc.constant('Sepia'), strength: fc.double({ min: 0, max: 1, noNaN: true }) }),
    {
      nil: undefined,
    },
  ),
});
const runs = { numRuns: 80 };

const oval = { id: 'o', parts: [{ kind: 'oval', centre: [0.4, 0.5], radii: [0.2, 0.2] }] };
const stroke = {
  points: [
    [0.2, 0.2, 1],
    [0.6, 0.5, 1],
  ],
  radius: 0.1,
  hardness: 0.5,
  flow: 1,
};
const brushed = { id: 'b', parts: [{ kind: 'brush', strokes: [stroke] }] };
const within = { id: 'w', parts: [{ kind: 'mask', mask: 'b' }] };

describe('laying a treatment on another', () => {
  it('gives a treatment, whatever the two are, and leaves both as they were', () => {
    fc.assert(
      fc.property(treatments(), treatments(), layings, (onto, part, laying) => {
        const before = JSON.stringify([onto, part]);
        const { treatment, laid, left } = layTreatment(onto, part, laying);
        expect(JSON.stringify([onto, part])).toBe(before);
        expect(parseTreatment(JSON.parse(JSON.stringify(treatment)))).toEqual(treatment);
        expect(laid.length + left.length).toBe(part.steps.length);
        const kept = laying.how === 'added' ? onto.steps.map(s => s.id) : [];
        const ids = treatment.steps.map(s => s.id);
        expect(ids.filter(id => kept.includes(id))).toEqual(kept);
        expect(ids.toSorted()).toEqual([...kept, ...laid].toSorted());
      }),
      runs,
    );
  });

  it('in place of all that is there gives the very picture', () => {
    fc.assert(
      fc.property(treatments(), treatments(), (onto, part) => {
        expect(codesOf(layTreatment(onto, part, all).treatment)).toEqual(codesOf(part));
      }),
      runs,
    );
  }, 60_000);

  it('added to nothing is the same as in place of it', () => {
    fc.assert(
      fc.property(treatments(), part => {
        const whole = { ...part, strength: 1 };
        const added = layTreatment(bareTreatment(), whole, { ...all, how: 'added' }).treatment;
        expect(added).toEqual(layTreatment(bareTreatment(), whole, all).treatment);
      }),
      runs,
    );
  });

  it('adds its steps as the last of each stage', () => {
    const onto = read([{ kind: 'light' }, { kind: 'mono' }, { kind: 'grain' }]);
    const part = read([{ kind: 'white-balance' }, { kind: 'split-tone' }, { kind: 'vignette' }]);
    const { treatment } = layTreatment(onto, part, { ...all, how: 'added' });
    expect(treatment.steps.map(s => s.kind)).toEqual([
      'light',
      'white-balance',
      'mono',
      'split-tone',
      'grain',
      'vignette',
    ]);
    const places = treatment.steps.map(s => stages.indexOf(s.stage));
    expect(places).toEqual(places.toSorted((a, b) => a - b));
  });

  it('leaves frame and painted areas behind, unless they are asked for; placed ones travel', () => {
    const frame = { quarterTurns: 1 };
    const steps = [
      { kind: 'mono' },
      { kind: 'wash', mask: 'b' },
      { kind: 'wash', mask: 'w' },
      { kind: 'local-light', mask: 'o' },
    ];
    const part = read(steps, { masks: [oval, brushed, within], frame });
    const bare = bareTreatment();
    const usual = layTreatment(bare, part, { how: 'instead', frame: false, painted: false });
    expect(usual.left.map(s => s.mask)).toEqual(['b', 'w']);
    expect(usual.treatment.masks.map(m => m.parts[0].kind)).toEqual(['oval']);
    expect(usual.treatment.frame).toEqual(bare.frame);
    const whole = layTreatment(bare, part, all);
    expect(whole.left).toEqual([]);
    expect(whole.treatment.masks).toHaveLength(3);
    expect(whole.treatment.frame.quarterTurns).toBe(1);
  });

  it('gives what it brings ids that are free, and carries a table once', () => {
    const sha256 = 'a'.repeat(64);
    const table = { kind: 'colour-table', settings: { table: 'film' } };
    const part = read([table, { kind: 'wash', mask: 'o' }], { tables: { film: { sha256 } }, masks: [oval] });
    const once = layTreatment(bareTreatment(), part, all).treatment;
    const twice = layTreatment(once, part, { ...all, how: 'added' }).treatment;
    expect(Object.values(twice.tables)).toEqual([{ sha256 }]);
    expect(new Set(twice.masks.map(m => m.id)).size).toBe(2);
    expect(twice.steps.filter(s => s.mask !== null).map(s => s.mask)).toEqual(twice.masks.map(m => m.id));
  });

  it('refuses what would be too many steps', () => {
    const many = read(Array.from({ length: MOST_STEPS - 1 }, () => ({ kind: 'light' })));
    const two = read([{ kind: 'light' }, { kind: 'light' }]);
    expect(() => layTreatment(many, two, { ...all, how: 'added' })).toThrow(/more than 200 steps/);
  });
});

describe('laying on as a group', () => {
  const part = read([
    { kind: 'mono' },
    { kind: 'split-tone' },
    { kind: 'vignette', settings: { amount: -0.5 } },
  ]);
  const as = (strength: number) =>
    layTreatment(bareTreatment(), part, { ...all, as: { name: 'Harbour', strength } });

  it('of full strength changes nothing of the picture', () => {
    fc.assert(
      fc.property(treatments(), of => {
        const whole = { ...of, strength: 1, groups: [], steps: of.steps.map(s => ({ ...s, group: null })) };
        const { treatment } = layTreatment(bareTreatment(), whole, {
          ...all,
          as: { name: 'G', strength: 1 },
        });
        expect(codesOf(treatment)).toEqual(codesOf(whole));
      }),
      runs,
    );
  }, 60_000);

  it('keeps the conversion whole, so that no colour comes back', () => {
    const { treatment } = as(0.5);
    expect(treatment.groups).toMatchObject([{ name: 'Harbour', strength: 0.5 }]);
    expect(treatment.steps.map(s => s.group)).toEqual([null, treatment.groups[0].id, treatment.groups[0].id]);
    const none = codesOf(as(0).treatment);
    expect(none).toEqual(codesOf({ ...part, steps: part.steps.slice(0, 1) }));
  });

  it('of one step, or of steps that stand alone between others, strengthens these themselves', () => {
    const onto = read([{ kind: 'mono' }, { kind: 'tint' }, { kind: 'grain' }]);
    const lone = layTreatment(onto, partOf(part, [part.steps[2].id]), {
      ...all,
      how: 'added',
      as: { name: 'Dark edges', strength: 0.4 },
    });
    expect(lone.treatment.groups).toEqual([]);
    expect(lone.treatment.steps.at(-1)).toMatchObject({ kind: 'vignette', strength: 0.4 });
  });
});

describe('some steps of a treatment', () => {
  it('are a treatment that gives their picture', () => {
    fc.assert(
      fc.property(treatments(), fc.integer({ min: 0, max: 31 }), (treatment, picks) => {
        const ids = treatment.steps.filter((_, i) => (picks >> i) & 1).map(s => s.id);
        const part = partOf(treatment, ids);
        expect(parseTreatment(JSON.parse(JSON.stringify(part)))).toEqual(part);
        expect(part.steps.map(s => s.id)).toEqual(ids);
      }),
      runs,
    );
  });
});
