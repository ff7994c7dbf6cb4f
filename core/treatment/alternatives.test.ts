import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { activeSteps } from '../engine/lay';
import { anyTreatment } from '../testing/arbitraries';
import {
  isAtWork,
  layBeside,
  layOut,
  nextAlternative,
  seenFor,
  showAlternative,
  shownOf,
  tidyAlternatives,
  trayWith,
} from './alternatives';
import { traysOf } from './trays';
import {
  changeSetting,
  copyStep,
  copySteps,
  newStep,
  nudgeStep,
  placeStep,
  removeStep,
  removeSteps,
  changeStep,
} from './edit';
import { groupAll, groupWithBefore, leaveGroup, switchGroup, ungroup } from './groups';
import { layTreatment, partOf, withoutAside } from './laying';
import { asLookHas } from './looks';
import { following } from './following';
import { asLook, nextRevision } from './look-making';
import { linked } from './shared';
import { inTwo } from './in-two';
import type { Step, Treatment } from './treatment';
import { parseTreatment } from './schema';
import { sameBeside, setOutBeside, usualSteps } from './usual-steps';

const read = (...steps: object[]) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, masks: [{ id: 'boat' }] });

/** Dodged, converted, toned, with grain. */
const line = read(
  { id: 'dodge', kind: 'local-light', stage: 'ground', settings: { exposure: 1 } },
  { id: 'grey', kind: 'mono' },
  { id: 'tone', kind: 'tint', mask: 'boat' },
  { id: 'grain', kind: 'grain' },
);
/** Steps by trays: `dodge [grey* s5] tone`, a star at the one that is at work. */
const trays = (t: Treatment) =>
  traysOf(t.steps)
    .map(tray => {
      const names = tray.map(s => `${s.id}${tray.length > 1 && !s.alternative!.aside ? '*' : ''}`);
      return tray.length > 1 ? `[${names.join(' ')}]` : names[0];
    })
    .join(' ');
const working = (t: Treatment) => activeSteps(t).map(s => s.id);
const usual = (key: string) => usualSteps('mono').find(u => u.key === key)!;

/** Two conversions over one dodged base. */
const two = setOutBeside(line, usual('mono Leaves lifted'), 'grey').begun;

describe('alternatives', () => {
  it('lie in one tray, one at work: the new one, on the same area, in the same group', () => {
    expect(trays(two)).toBe('dodge [grey s5*] tone grain');
    expect(working(two)).toEqual(['dodge', 's5', 'tone', 'grain']);
    const toned = setOutBeside(line, usual('baths Sepia'), 'tone').begun;
    expect(toned.steps.find(s => s.id === 's5')).toMatchObject({
      kind: 'baths',
      mask: 'boat',
      stage: 'tone',
    });
    const inGroup = groupWithBefore(line, 'tone');
    const grouped = setOutBeside(inGroup, usual('mono'), 'grey').begun;
    expect(grouped.steps.map(s => s.group)).toEqual([null, 'g1', 'g1', 'g1', null]);
    expect(() => setOutBeside(line, usual('mono'), 'nobody')).toThrow(/no step nobody/);
  });

  it('are switched in a ring, and each keeps what it is set to', () => {
    const three = sameBeside(two, 's5').begun;
    expect(trays(three)).toBe('dodge [grey s5 s6*] tone grain');
    expect(nextAlternative(three, 'grey', 1)).toBe('grey');
    expect(nextAlternative(three, 's5', -1)).toBe('s5');
    const back = showAlternative(three, 'grey');
    expect(trays(back)).toBe('dodge [grey* s5 s6] tone grain');
    expect(back.steps.map(s => s.settings)).toEqual(three.steps.map(s => s.settings));
    expect(nextAlternative(line, 'grey', 1)).toBeNull();
    expect(showAlternative(line, 'grey')).toBe(line);
    expect(showAlternative(back, 'grey')).toBe(back);
  });

  it('are off and on together: one that comes in the place of an off one is off', () => {
    const off = { ...two, steps: two.steps.map(s => (s.id === 's5' ? { ...s, enabled: false } : s)) };
    expect(working(showAlternative(off, 'grey'))).toEqual(['dodge', 'tone', 'grain']);
    // Switching a group off and on again leaves each tray as it was.
    const grouped = groupWithBefore(two, 'tone');
    const again = switchGroup(switchGroup(grouped, 'grey', false), 'grey', true);
    expect(again).toEqual(grouped);
  });

  it('move, are grouped and taken out as one', () => {
    expect(trays(nudgeStep(two, 's5', -1))).toBe('dodge [grey s5*] tone grain');
    expect(nudgeStep(two, 's5', -1).steps[1].stage).toBe('ground');
    expect(trays(placeStep(two, 'grey', 'tone', 9))).toBe('dodge tone [grey s5*] grain');
    // Nobody comes between them.
    expect(trays(placeStep(two, 'tone', 'mono', 1))).toBe('dodge [grey s5*] tone grain');
    expect(trays(nudgeStep(placeStep(two, 'tone', 'mono', 9), 'tone', -1))).toBe(
      'dodge tone [grey s5*] grain',
    );
    const grouped = groupWithBefore(two, 'grey');
    expect(grouped.steps.map(s => s.group)).toEqual(['g1', 'g1', 'g1', null, null]);
    const four = groupWithBefore(grouped, 'tone');
    const left = leaveGroup(four, 's5');
    expect(trays(left)).toBe('dodge [grey s5*] tone grain');
    expect(left.steps.map(s => s.group)).toEqual([null, null, null, null, null]);
  });

  it('are grouped with what comes after them, and with nothing before; alone they stay as they are', () => {
    const grouped = groupAll(two, ['grey', 's5', 'tone']);
    expect(grouped.steps.map(s => s.group)).toEqual([null, 'g1', 'g1', 'g1', null]);
    expect(groupAll(two, ['grey', 's5'])).toBe(two);
  });

  it('hand over to the next when the one at work is removed, and are none when one is left', () => {
    const three = sameBeside(two, 's5').begun;
    expect(trays(removeStep(three, 's6'))).toBe('dodge [grey* s5] tone grain');
    expect(trays(removeStep(three, 'grey'))).toBe('dodge [s5 s6*] tone grain');
    const one = removeStep(two, 's5');
    expect(one).toEqual(line);
    expect(removeSteps(three, ['grey', 's5', 's6']).steps).toHaveLength(3);
  });

  it('are doubled as a tray, or the one that is seen alone', () => {
    const { treatment, copies } = copySteps(two, ['grey', 's5']);
    expect(copies).toHaveLength(2);
    expect(trays(treatment)).toBe('dodge [grey s5*] [s6 s7*] tone grain');
    expect(trays(copyStep(two, 's5').treatment)).toBe('dodge [grey s5*] s6 tone grain');
    expect(copyStep(two, 'grey').treatment.steps.find(s => s.id === 's6')!.enabled).toBe(false);
  });

  it('are laid out in trays of their own with the same picture', () => {
    const out = layOut(two, 'grey');
    expect(trays(out)).toBe('dodge grey s5 tone grain');
    expect(working(out)).toEqual(working(two));
    expect(layOut(line, 'grey')).toBe(line);
  });

  it('are carried along, and put aside by a look', () => {
    const { treatment } = layTreatment(two, two, { how: 'added', frame: false, painted: true });
    expect(traysOf(treatment.steps).filter(t => t.length === 2)).toHaveLength(2);
    expect(working(treatment)).toHaveLength(8);
    expect(trays(asLookHas(two))).toBe('dodge s5 tone grain');
    expect(trays(tidyAlternatives(partOf(two, ['dodge', 's5'])))).toBe('dodge s5');
    expect(withoutAside(line)).toBe(line);
    // With the areas and the group of what was put aside alone.
    const alone = setOutBeside(
      changeStep(groupWithBefore(line, 'tone'), 'tone', { mask: null }),
      usual('baths Sepia'),
      'grey',
    ).begun;
    const onBoat = changeStep(alone, 'grey', { mask: 'boat' });
    expect(withoutAside(onBoat).masks).toEqual([]);
    const grouped = { ...two, groups: [{ id: 'g', name: 'Two', strength: 0.5 }] };
    const inGroup = grouped.steps.map(s => (trayWith(two, 'grey').includes(s) ? { ...s, group: 'g' } : s));
    const seen = withoutAside({ ...grouped, steps: inGroup });
    expect(seen.groups).toEqual([]);
    expect(seen.steps[1]).toMatchObject({ id: 's5', group: null, strength: 0.5 });
  });

  it('follow a shared look where they are put aside, and which is at work stays this photograph’s own', () => {
    const look = { id: 'look', ...nextRevision(null, asLook(line, ['tone'], null)) };
    const beside = setOutBeside(linked(line, ['tone'], look), usual('baths Sepia'), 'tone').begun;
    const lookStep = look.treatment.steps[0].id;
    const warmer = changeSetting(look.treatment, lookStep, ['hue'], 77);
    const followed = following(beside, { id: 'look', ...nextRevision(look, warmer) });
    expect(trays(followed)).toBe('dodge grey [tone s5*] grain');
    expect(followed.steps.find(s => s.id === 'tone')!.settings).toMatchObject({ hue: 77 });
    // A look that is made of both is made of them one by one.
    expect(asLook(beside, ['tone', 's5'], null).steps.map(s => s.alternative)).toEqual([
      undefined,
      undefined,
    ]);
  });

  it('are chosen by whoever is seen in the place of one', () => {
    expect(seenFor(two, 'grey')).toBe('s5');
    expect(seenFor(two, 's5')).toBe('s5');
    expect(seenFor(two, null)).toBeNull();
    expect(seenFor(two, 'gone')).toBe('gone');
  });

  it('that are put aside do not keep a render from being cut in two', () => {
    const keeping = { ...newStep(two, 'keep-colour'), alternative: { tray: 'x', aside: true } } as Step;
    const cut = inTwo({ ...two, steps: [...two.steps, keeping] }, 2);
    expect(cut).not.toBeNull();
    expect(isAtWork(keeping)).toBe(false);
  });
});

describe('reading alternatives', () => {
  const step = (id: string, alternative?: object, more: object = {}) => ({
    id,
    kind: 'tint',
    ...(alternative && { alternative }),
    ...more,
  });
  it('takes them apart where they are none, and leaves the picture as it is', () => {
    const [a, aside] = [{ tray: 'a' }, { tray: 'a', aside: true }];
    expect(trays(read(step('x', a), step('y', aside)))).toBe('[x* y]');
    // Alone, with another between them, both at work, none at work, in two stages, twice.
    expect(trays(read(step('x', aside)))).toBe('x');
    expect(trays(read(step('x', a), step('z'), step('y', aside)))).toBe('x z y');
    expect(working(read(step('x', a), step('z'), step('y', aside)))).toEqual(['x', 'z']);
    expect(working(read(step('x', a), step('y', a)))).toEqual(['x', 'y']);
    expect(working(read(step('x', aside), step('y', aside)))).toEqual([]);
    expect(trays(read(step('x', aside), step('y', a, { stage: 'finish' })))).toBe('x y');
    const twice = read(step('x', a), step('y', aside), step('z'), step('v', aside), step('w', a));
    expect(trays(twice)).toBe('[x* y] z v w');
    expect(working(twice)).toEqual(['x', 'z', 'w']);
  });
  it('names what is wrong', () => {
    expect(() => read(step('x', { aside: true }))).toThrow(/steps\[0\]\.alternative\.tray/);
    expect(() => read(step('x', { tray: 'a', shown: true }))).toThrow(
      /steps\[0\]\.alternative\.shown: unknown/,
    );
  });
  it('gives trays of one at work each, whatever is written, and changes nothing of what is laid on', () => {
    fc.assert(
      fc.property(anyTreatment(), t => {
        expect(tidyAlternatives(t)).toBe(t);
        for (const tray of traysOf(t.steps)) {
          expect(tray.filter(s => !s.alternative?.aside)).toHaveLength(1);
          expect(tray.length > 1).toBe(tray[0].alternative !== undefined);
        }
        // As if each had been written loose: one more tray about every step changes nothing that is laid on.
        const wild = {
          ...t,
          steps: t.steps.map(
            (s, i) => ({ ...s, alternative: { tray: `w${i >> 1}`, aside: !isAtWork(s) } }) as Step,
          ),
        };
        expect(working(tidyAlternatives(wild))).toEqual(working(t));
      }),
    );
  });
});

describe('whatever is done', () => {
  const edit = fc.record({
    what: fc.constantFrom(
      'beside',
      'again',
      'show',
      'next',
      'out',
      'move',
      'place',
      'group',
      'leave',
      'ungroup',
      'copy',
      'double',
      'remove',
      'lay',
      'join',
    ),
    at: fc.nat(20),
    to: fc.nat(20),
    stage: fc.constantFrom('ground', 'mono', 'tone', 'finish'),
  });

  it('alternatives stay neighbours with one at work, in one group, and read back as they are', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), edits => {
        let t: Treatment = two;
        for (const { what, at, to, stage } of edits) {
          if (t.steps.length === 0 || t.steps.length > 40) break;
          const { id } = t.steps[at % t.steps.length];
          const other = t.steps[to % t.steps.length].id;
          const before = t;
          if (what === 'beside') t = layBeside(t, other, id);
          else if (what === 'again') t = sameBeside(t, id).begun;
          else if (what === 'show') t = showAlternative(t, id);
          else if (what === 'next') t = showAlternative(t, nextAlternative(t, id, 1) ?? id);
          else if (what === 'out') t = layOut(t, id);
          else if (what === 'move') t = nudgeStep(t, id, to % 2 ? 1 : -1);
          else if (what === 'place') t = placeStep(t, id, stage as 'tone', to);
          else if (what === 'group') t = groupWithBefore(t, id);
          else if (what === 'join') t = groupAll(t, [id, other]);
          else if (what === 'leave') t = leaveGroup(t, id);
          else if (what === 'ungroup') t = ungroup(t, id);
          else if (what === 'copy') t = copyStep(t, id).treatment;
          else if (what === 'double')
            t = copySteps(
              t,
              trayWith(t, id).map(s => s.id),
            ).treatment;
          else if (what === 'remove') t = removeStep(t, id);
          else
            t = layTreatment(t, partOf(two, ['grey', 's5']), {
              how: 'added',
              frame: false,
              painted: true,
            }).treatment;

          expect(parseTreatment(JSON.parse(JSON.stringify(t)))).toEqual(t);
          expect(tidyAlternatives(t)).toBe(t);
          if (what === 'out' || what === 'group') expect(working(t)).toEqual(working(before));
          if (what === 'show' || what === 'next') {
            expect(working(t)).toHaveLength(working(before).length);
          }
          if (what === 'show') expect(shownOf(trayWith(t, id)).id).toBe(id);
        }
      }),
    );
  });

  it('switching through a tray comes back to where it began, each at work once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5 }), fc.constantFrom(1 as const, -1 as const), (more, by) => {
        let t: Treatment = line;
        for (let i = 0; i < more; i++) t = sameBeside(t, shownOf(trayWith(t, 'grey')).id).begun;
        const seen = new Set<string>();
        const start = t;
        for (let i = 0; i <= more; i++) {
          t = showAlternative(t, nextAlternative(t, 'grey', by)!);
          seen.add(shownOf(trayWith(t, 'grey')).id);
          expect(working(t)).toHaveLength(4);
        }
        expect(seen.size).toBe(more + 1);
        expect(t).toEqual(start);
      }),
    );
  });
});
