import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTreatment } from '../testing/arbitraries';
import { picture, read, rendered } from '../testing/pictures';
import { changeSetting, changeStep, copyStep, nudgeStep, removeStep } from './edit';
import { tidyGroups } from './groups';
import { layTreatment } from './laying';
import { bareTreatment, type Step, type Treatment } from './treatment';
import { parseTreatment } from './schema';
import { asShared, following } from './following';
import { asLook, nextRevision, withStepOf } from './look-making';
import { followingByKind, withOwnChanges } from './own-changes';
import { followingOnly, heldBy, letGo, linked, looksOf, toFollow, type SharedLook } from './shared';

/** Looks that a series shares: what follows them, and what stays as it was made here. */

const ID = 'look';
const source = picture(16, 11);
const codesOf = (treatment: Treatment) => rendered(treatment, source, { pixels: 1 }).codes;
const runs = { numRuns: 150 };

const lookOf = (treatment: Treatment, before: SharedLook | null = null): SharedLook => ({
  id: ID,
  ...nextRevision(before, { ...treatment, frame: bareTreatment().frame, groups: [], strength: 1 }),
});
const loose = (steps: Step[]): Step[] => steps.map(s => ({ ...s, group: null }) as Step);
const looks = () => anyTreatment({ most: 4 }).map(t => lookOf({ ...t, steps: loose(t.steps) }));

/** A look laid on a treatment, and followed from then on. */
function laidOn(onto: Treatment, look: SharedLook, how: 'instead' | 'added' = 'added'): Treatment {
  return layTreatment(onto, toFollow(look), { how, frame: false, painted: true }).treatment;
}

/** A change of a look: some of its steps removed, doubled, moved, set otherwise. */
type Edit = (treatment: Treatment) => Treatment;
const edits: fc.Arbitrary<Edit> = fc
  .record({ what: fc.constantFrom('remove', 'double', 'left', 'right', 'off', 'strength'), at: fc.nat(9) })
  .map(({ what, at }) => treatment => {
    const step = treatment.steps[at % Math.max(1, treatment.steps.length)];
    if (!step) return treatment;
    if (what === 'remove') return removeStep(treatment, step.id);
    if (what === 'double') return copyStep(treatment, step.id).treatment;
    if (what === 'off') return changeStep(treatment, step.id, { enabled: !step.enabled });
    if (what === 'strength') return changeStep(treatment, step.id, { strength: 0.37 });
    return nudgeStep(treatment, step.id, what === 'left' ? -1 : 1);
  });
const edited = (of: Treatment, all: readonly Edit[]) => all.reduce((t, edit) => edit(t), of);
const someEdits = fc.array(edits, { minLength: 1, maxLength: 4 });

/** Steps without what names them in one treatment. */
const plain = ({ steps }: Treatment) =>
  steps.map(({ id: _i, mask: _m, look: _l, settings, ...rest }) => ({
    ...rest,
    settings: { ...settings, table: undefined },
  }));

describe('following a shared look', () => {
  it('gives a treatment, whatever became of the look and of what follows it, and the same when it follows again', () => {
    fc.assert(
      fc.property(anyTreatment({ most: 4 }), looks(), someEdits, someEdits, (onto, look, here, there) => {
        const start = laidOn(onto, look);
        const own = withOwnChanges(start, edited(start, here));
        const next = lookOf(edited(look.treatment, there), look);
        const before = JSON.stringify([own, next]);
        const followed = following(own, next);
        expect(JSON.stringify([own, next])).toBe(before);
        expect(parseTreatment(JSON.parse(JSON.stringify(followed)))).toEqual(followed);
        expect(following(followed, next)).toEqual(followed);
        // To follow is no change of one's own.
        expect(withOwnChanges(own, followed)).toBe(followed);
        for (const held of heldBy(followed, ID)) expect(held.look.revision).toBe(2);
      }),
      runs,
    );
  });

  it('makes of a photograph that changed nothing what the look laid on anew makes', () => {
    fc.assert(
      fc.property(looks(), someEdits, (look, there) => {
        const next = lookOf(edited(look.treatment, there), look);
        // With none of its steps left a photograph does not use the look any more.
        fc.pre(look.treatment.steps.some(s => next.treatment.steps.some(n => n.id === s.id)));
        const followed = following(laidOn(bareTreatment(), look, 'instead'), next);
        const anew = laidOn(bareTreatment(), next, 'instead');
        expect(plain(followed)).toEqual(plain(anew));
        expect(codesOf(followed)).toEqual(codesOf(anew));
      }),
      runs,
    );
  }, 60_000);

  it('comes back when the look is changed back', () => {
    fc.assert(
      fc.property(anyTreatment({ most: 3 }), looks(), someEdits, (onto, look, there) => {
        const start = tidyGroups(laidOn(onto, look));
        const next = lookOf(edited(look.treatment, there), look);
        const followed = following(start, next);
        fc.pre(heldBy(followed, ID).length > 0 || heldBy(start, ID).length === 0);
        const back = following(followed, lookOf(look.treatment, next));
        expect(heldBy(back, ID).map(s => s.kind)).toEqual(heldBy(start, ID).map(s => s.kind));
        expect(codesOf(back)).toEqual(codesOf(start));
      }),
      runs,
    );
  }, 60_000);

  it('puts the next alternative to work where the one at work goes', () => {
    const tray = (aside: boolean) => ({ tray: 'a1', aside });
    const look = lookOf(
      read([
        { kind: 'saturation', alternative: tray(false) },
        { kind: 'colour-bands', alternative: tray(true) },
      ]),
    );
    const next = lookOf(removeStep(look.treatment, look.treatment.steps[0].id), look);
    const [only, ...none] = following(laidOn(bareTreatment(), look), next).steps;
    expect(none).toEqual([]);
    expect(only).toMatchObject({ kind: 'colour-bands', enabled: true });
    expect(only.alternative).toBeUndefined();
  });

  it('keeps an area that another area stands on, when the step on it goes', () => {
    const masks = [
      { id: 'm1', parts: [{ kind: 'whole', op: 'add' }] },
      { id: 'm2', parts: [{ kind: 'mask', op: 'add', mask: 'm1' }] },
    ];
    const steps = [
      { kind: 'light', mask: 'm1' },
      { kind: 'saturation', mask: 'm2' },
    ];
    const look = lookOf(read(steps, { masks }));
    const start = laidOn(bareTreatment(), look);
    const own = withOwnChanges(start, removeStep(start, start.steps[1].id));
    const followed = following(own, lookOf({ ...look.treatment, steps: [] }, look));
    expect(followed.steps).toEqual([]);
    const { masks: kept } = parseTreatment(JSON.parse(JSON.stringify(followed)));
    expect(kept.map(m => m.parts.map(p => p.kind))).toContainEqual(['mask']);
  });

  it('leaves steps that do not follow it as and where they are', () => {
    fc.assert(
      fc.property(anyTreatment({ most: 4 }), looks(), someEdits, (onto, look, there) => {
        const start = tidyGroups(laidOn(onto, look));
        const followed = following(start, lookOf(edited(look.treatment, there), look));
        const own = ({ steps }: Treatment) => loose(steps).filter(s => !s.look);
        expect(own(followed)).toEqual(own(start));
      }),
      runs,
    );
  });
});

const sepia = read([
  { kind: 'mono' },
  { kind: 'split-tone', settings: { shadows: { hue: 20, saturation: 0.3 }, balance: 0.1 } },
  { kind: 'vignette', settings: { amount: -0.2 } },
]);
const settings = (t: Treatment, kind: string) =>
  t.steps.find(s => s.kind === kind)!.settings as Record<string, unknown>;
const id = (t: Treatment, kind: string) => t.steps.find(s => s.kind === kind)!.id;

describe('what is changed where the look is used', () => {
  const look = lookOf(sepia);
  const start = laidOn(bareTreatment(), look);
  const set = (t: Treatment, kind: string, key: string, value: unknown) =>
    withOwnChanges(t, changeSetting(t, id(t, kind), [key], value));

  it('is noted by name, once, and only at the step that it was done to', () => {
    const own = set(set(start, 'split-tone', 'balance', 0.4), 'split-tone', 'balance', 0.5);
    expect(own.steps.map(s => s.look!.changed)).toEqual([[], ['balance'], []]);
    const weaker = withOwnChanges(
      own,
      changeStep(own, id(own, 'vignette'), { strength: 0.5, name: 'Edges' }),
    );
    expect(weaker.steps[2].look!.changed).toEqual(['step.name', 'step.strength']);
    expect(withOwnChanges(own, own)).toBe(own);
    const same = { ...own, steps: [...own.steps] };
    expect(withOwnChanges(own, same)).toBe(same);
  });

  it('stays when the look changes the same, and everything else follows', () => {
    const own = set(start, 'split-tone', 'balance', 0.4);
    const warm = changeSetting(look.treatment, look.treatment.steps[1].id, ['shadows', 'hue'], 40);
    const next = lookOf(changeSetting(warm, look.treatment.steps[1].id, ['balance'], -0.3), look);
    const followed = following(own, next);
    expect(settings(followed, 'split-tone')).toMatchObject({ balance: 0.4, shadows: { hue: 40 } });
    expect(settings(following(start, next), 'split-tone').balance).toBe(-0.3);
    expect(settings(asShared(followed, id(followed, 'split-tone'), next), 'split-tone').balance).toBe(-0.3);
  });

  it('of a step that the look loses stays as the photograph’s own', () => {
    const own = set(start, 'vignette', 'amount', -0.6);
    const next = lookOf(removeStep(look.treatment, look.treatment.steps[2].id), look);
    expect(following(start, next).steps.map(s => s.kind)).toEqual(['mono', 'split-tone']);
    const kept = following(own, next);
    expect(kept.steps.map(s => s.look === undefined)).toEqual([false, false, true]);
    expect(settings(kept, 'vignette').amount).toBe(-0.6);
  });

  it('keeps away a step that was removed here, and brings one that is new', () => {
    const without = removeStep(start, id(start, 'vignette'));
    const { treatment } = copyStep(look.treatment, look.treatment.steps[1].id);
    const next = lookOf(treatment, look);
    expect(following(without, next).steps.map(s => s.kind)).toEqual(['mono', 'split-tone', 'split-tone']);
  });

  it('of its area stays, and an area of the look is brought and taken away with it', () => {
    const masks = [{ id: 'o', parts: [{ kind: 'oval', centre: [0.4, 0.5], radii: [0.2, 0.2] }] }];
    const onOval = lookOf(read([{ kind: 'light', mask: 'o' }], { masks }));
    const held = laidOn(read([{ kind: 'mono' }]), onOval);
    const wider = {
      ...onOval.treatment,
      masks: onOval.treatment.masks.map(m => ({ ...m, feather: 0.3 })),
    };
    const next = lookOf(wider, onOval);
    const followed = following(held, next);
    expect(followed.masks.map(m => m.feather)).toEqual([0.3]);
    const mine = withOwnChanges(held, { ...held, masks: held.masks.map(m => ({ ...m, feather: 0.1 })) });
    expect(mine.steps[0].look!.changed).toEqual(['step.mask']);
    expect(following(mine, next).masks.map(m => m.feather)).toEqual([0.1]);
    const nowhere = lookOf(
      { ...onOval.treatment, steps: [{ ...onOval.treatment.steps[0], mask: null }] },
      next,
    );
    expect(following(followed, nowhere).masks).toEqual([]);
  });

  it('of the place is kept as well', () => {
    const own = nudgeStep(start, id(start, 'split-tone'), -1);
    const noted = withOwnChanges(start, own);
    expect(noted.steps.map(s => s.look!.changed)).toEqual([[], ['step.place'], []]);
    const order = following(noted, lookOf(look.treatment, look)).steps.map(s => [s.kind, s.stage]);
    expect(order).toEqual(own.steps.map(s => [s.kind, s.stage]));
  });
});

it('that is laid on at half strength follows, but for that strength', () => {
  const look = lookOf(read([{ kind: 'tint', settings: { hue: 30 } }]));
  const as = { name: 'Half', strength: 0.5 };
  const half = layTreatment(bareTreatment(), toFollow(look), {
    how: 'added',
    frame: false,
    painted: true,
    as,
  });
  expect(half.treatment.steps[0]).toMatchObject({ strength: 0.5, look: { changed: ['step.strength'] } });
  const next = lookOf(read([{ ...look.treatment.steps[0], strength: 0.9, settings: { hue: 60 } }]), look);
  expect(following(half.treatment, next).steps[0]).toMatchObject({ strength: 0.5, settings: { hue: 60 } });
});

it('that is laid on at half strength brings new steps at half strength', () => {
  const look = lookOf(sepia);
  const as = { name: 'Half', strength: 0.5 };
  const laying = { how: 'added', frame: false, painted: true, as } as const;
  const half = layTreatment(bareTreatment(), toFollow(look), laying).treatment;
  const more = read([...look.treatment.steps, { kind: 'grain' }]);
  const followed = following(half, lookOf(more, look));
  const anew = layTreatment(bareTreatment(), toFollow(lookOf(more, look)), laying).treatment;
  expect(followed.steps.map(s => s.kind)).toEqual(['mono', 'split-tone', 'vignette', 'grain']);
  expect(codesOf(followed)).toEqual(codesOf(anew));
});

it('is followed by what was made like it before, but for what differs', () => {
  const look = lookOf(sepia);
  const like = read([
    { kind: 'light' },
    { kind: 'mono' },
    { kind: 'split-tone', strength: 0.5, settings: { shadows: { hue: 20, saturation: 0.3 }, balance: 0.3 } },
  ]);
  const followed = followingByKind(like, look);
  expect(followed.steps.map(s => s.look?.changed)).toEqual([undefined, [], ['balance', 'step.strength']]);
  expect(codesOf(following(followed, look))).toEqual(codesOf(like));
});

describe('a shared look', () => {
  const look = lookOf(sepia);
  const start = laidOn(bareTreatment(), look);

  it('takes a step as it is somewhere, and keeps the rest', () => {
    const own = changeSetting(start, id(start, 'split-tone'), ['balance'], 0.7);
    const next = lookOf(withStepOf(look, own, id(own, 'split-tone')), look);
    expect(next.treatment.steps.map(s => s.id)).toEqual(look.treatment.steps.map(s => s.id));
    expect(settings(following(start, next), 'split-tone').balance).toBe(0.7);
    expect(settings(next.treatment, 'vignette')).toEqual(settings(look.treatment, 'vignette'));
  });

  it('of steps that follow it already keeps their ids, and gives new ones ids that none had', () => {
    const { treatment, copy } = copyStep(start, id(start, 'vignette'));
    const next = lookOf(
      asLook(
        treatment,
        treatment.steps.map(s => s.id),
        ID,
      ),
      look,
    );
    expect(next.treatment.steps.map(s => s.id)).toEqual([...look.treatment.steps.map(s => s.id), 'r2-4']);
    const linkedAll = linked(
      treatment,
      treatment.steps.map(s => s.id),
      next,
    );
    expect(linkedAll.steps.find(s => s.id === copy)!.look).toEqual({
      id: ID,
      revision: 2,
      step: 'r2-4',
      changed: [],
    });
    expect(parseTreatment(JSON.parse(JSON.stringify(linkedAll)))).toEqual(linkedAll);
  });

  it('is let go of', () => {
    expect(looksOf(start)).toEqual([ID]);
    const free = letGo(start, ID);
    expect(looksOf(free)).toEqual([]);
    expect(following(free, lookOf(bareTreatment(), look))).toBe(free);
    expect(codesOf(free)).toEqual(codesOf(start));
    expect(followingOnly(start, [ID])).toEqual(start);
    expect(looksOf(followingOnly(start, ['another']))).toEqual([]);
  });
});
