import { describe, expect, it } from 'vitest';
import { copyStep, copySteps, placeStep, removeSteps } from './edit';
import fc from 'fast-check';
import {
  groupAll,
  groupOf,
  groupWithBefore,
  leaveGroup,
  nameGroup,
  runsOf,
  strengthenGroup,
  switchGroup,
  ungroup,
} from './groups';
import { nudgeStep, removeStep } from './edit';
import type { Treatment } from './treatment';
import { parseTreatment } from './schema';

const five = parseTreatment({
  format: 'lampwash-treatment',
  version: 1,
  steps: [
    { id: 'a', kind: 'curve' },
    { id: 'b', kind: 'tint' },
    { id: 'c', kind: 'levels' },
    { id: 'd', kind: 'split-tone' },
    { id: 'e', kind: 'grain' },
  ],
});
const groups = (t: Treatment) =>
  t.steps.map(s => `${s.id}${s.group === null ? '' : `:${groupOf(t, s.group)!.name}`}`).join(' ');

describe('groups', () => {
  it('take a neighbour in, and a third, and join with another group', () => {
    let t = groupWithBefore(five, 'b');
    expect(groups(t)).toBe('a:Group 1 b:Group 1 c d e');
    t = groupWithBefore(t, 'c');
    expect(groups(t)).toBe('a:Group 1 b:Group 1 c:Group 1 d e');
    const two = groupWithBefore(groupWithBefore(five, 'b'), 'd');
    expect(groups(two)).toBe('a:Group 1 b:Group 1 c:Group 2 d:Group 2 e');
    expect(groups(groupWithBefore(two, 'c'))).toBe('a:Group 1 b:Group 1 c:Group 1 d:Group 1 e');
  });
  it('reach into a neighbouring stage, and are left alone by the first step', () => {
    expect(groups(groupWithBefore(five, 'e'))).toBe('a b c d:Group 1 e:Group 1');
    expect(groupWithBefore(five, 'a')).toBe(five);
    // A step that leaves stays in its stage: before the group where that goes on into a later one.
    const across = groupWithBefore(groupWithBefore(five, 'e'), 'd');
    expect(groups(across)).toBe('a b c:Group 1 d:Group 1 e:Group 1');
    expect(groups(leaveGroup(across, 'd'))).toBe('a b d c:Group 1 e:Group 1');
    expect(groups(leaveGroup(across, 'e'))).toBe('a b c:Group 1 d:Group 1 e');
  });
  it('have a strength of their own, and are gone with their last step', () => {
    const t = strengthenGroup(groupWithBefore(five, 'b'), 'a', 0.4);
    expect(t.groups).toEqual([{ id: 'g1', name: 'Group 1', strength: 0.4 }]);
    expect(strengthenGroup(t, 'c', 0.2)).toBe(t);
    expect(ungroup(t, 'b').groups).toEqual([]);
    expect(removeStep(t, 'a').groups).toEqual([]);
    // Whoever is left alone is laid on as before.
    expect(removeStep(t, 'a').steps[0]).toMatchObject({ id: 'b', group: null, strength: 0.4 });
  });
  it('that earlier treatments name alone are read, and called by their names', () => {
    const read = (more: object) =>
      parseTreatment({
        format: 'lampwash-treatment',
        version: 1,
        steps: [{ kind: 'curve', group: 'Base' }],
        ...more,
      });
    expect(read({}).groups).toEqual([{ id: 'Base', name: 'Base', strength: 1 }]);
    expect(read({ groups: [{ id: 'Base', name: 'Warm', strength: 0.5 }] }).groups).toHaveLength(1);
    expect(() => read({ groups: Array(2).fill({ id: 'x', name: 'y' }) })).toThrow(
      /groups\[1\]\.id: used twice/,
    );
    expect(() => read({ groups: [{ id: 'x', name: ' ' }] })).toThrow(/groups\[0\]\.name/);
    expect(() => read({ groups: [{ id: 'x', name: 'y', strength: 2 }] })).toThrow(/groups\[0\]\.strength/);
  });
  it('whatever is done, stay neighbours of two or more, in the order of the stages, each named once', () => {
    const edit = fc.record({
      what: fc.constantFrom('group', 'leave', 'ungroup', 'left', 'right', 'remove', 'copy', 'place'),
      at: fc.nat(6),
      stage: fc.constantFrom('ground', 'tone', 'finish'),
    });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 20 }), edits => {
        let t = five;
        for (const { what, at, stage } of edits) {
          const step = t.steps[at % Math.max(1, t.steps.length)];
          if (!step) continue;
          const { id } = step;
          if (what === 'group') t = groupWithBefore(t, id);
          else if (what === 'leave') t = leaveGroup(t, id);
          else if (what === 'ungroup') t = ungroup(t, id);
          else if (what === 'remove') t = removeStep(t, id);
          else if (what === 'copy') t = copyStep(t, id).treatment;
          else if (what === 'place') t = placeStep(t, id, stage as 'tone', at);
          else t = nudgeStep(t, id, what === 'left' ? -1 : 1);
          expect(parseTreatment(JSON.parse(JSON.stringify(t)))).toEqual(t);
          const runs = runsOf(t.steps).filter(r => r.group !== null);
          for (const r of runs) expect(r.steps.length).toBeGreaterThan(1);
          expect(new Set(runs.map(r => r.group)).size).toBe(runs.length);
          expect(t.groups.map(g => g.id).sort()).toEqual(runs.map(r => r.group!).sort());
        }
      }),
    );
  });
  it('are left at the end, and end when one step is left', () => {
    const t = groupWithBefore(groupWithBefore(five, 'b'), 'c');
    expect(groups(leaveGroup(t, 'a'))).toBe('b:Group 1 c:Group 1 a d e');
    expect(groups(leaveGroup(groupWithBefore(five, 'b'), 'b'))).toBe('a b c d e');
    expect(groups(ungroup(t, 'b'))).toBe('a b c d e');
  });
  it('are named and switched as one', () => {
    const t = nameGroup(groupWithBefore(five, 'b'), 'b', '  Warm base ');
    expect(groups(t)).toBe('a:Warm base b:Warm base c d e');
    expect(nameGroup(t, 'b', '  ')).toBe(t);
    expect(switchGroup(t, 'a', false).steps.map(s => s.enabled)).toEqual([false, false, true, true, true]);
  });
  it('follow a step that is moved: in between it joins, outside it leaves, inside it stays', () => {
    const t = groupWithBefore(groupWithBefore(five, 'b'), 'c');
    expect(groups(placeStep(t, 'd', 'tone', 1))).toBe('a:Group 1 d:Group 1 b:Group 1 c:Group 1 e');
    expect(groups(placeStep(t, 'a', 'tone', 3))).toBe('b:Group 1 c:Group 1 d a e');
    expect(groups(placeStep(t, 'a', 'tone', 2))).toBe('b:Group 1 c:Group 1 a:Group 1 d e');
  });
  it('are runs of neighbours: equal names apart from each other are two', () => {
    const t = { ...five, steps: five.steps.map(s => ({ ...s, group: s.id === 'b' ? null : 'x' })) };
    expect(runsOf(t.steps.slice(0, 4)).map(r => r.steps.length)).toEqual([1, 1, 2]);
  });
});

describe('a copy of a step', () => {
  it('stands right after it, with an id of its own and settings of its own', () => {
    const { treatment, copy } = copyStep(five, 'b');
    expect(treatment.steps.map(s => s.kind)).toEqual([
      'curve',
      'tint',
      'tint',
      'levels',
      'split-tone',
      'grain',
    ]);
    expect(treatment.steps[2].id).toBe(copy);
    expect(new Set(treatment.steps.map(s => s.id)).size).toBe(6);
    expect(treatment.steps[2].settings).toEqual(five.steps[1].settings);
    expect(treatment.steps[2].settings).not.toBe(five.steps[1].settings);
  });
});

describe('several steps at once', () => {
  const some = fc.subarray(['a', 'b', 'c', 'd', 'e'], { minLength: 1 });
  const grouped = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 4 });

  it('are doubled, grouped and removed, and every group stays in one run of more than one', () => {
    fc.assert(
      fc.property(grouped, some, some, (joins, doubled, together) => {
        const start = joins.reduce((of, id) => groupWithBefore(of, id), five);
        const { treatment: twice, copies } = copySteps(start, doubled);
        const joined = groupAll(twice, together);
        for (const of of [twice, joined, removeSteps(joined, doubled)]) {
          const runs = runsOf(of.steps).filter(r => r.group !== null);
          expect(new Set(runs.map(r => r.group)).size).toBe(runs.length);
          expect(runs.every(r => r.steps.length > 1)).toBe(true);
          expect(of.groups.map(g => g.id).toSorted()).toEqual(runs.map(r => r.group).toSorted());
          expect(parseTreatment(JSON.parse(JSON.stringify(of)))).toEqual(of);
        }
        expect(twice.steps).toHaveLength(5 + doubled.length);
        // Without the copies it is as it was, in its order.
        expect(removeSteps(twice, copies).steps.map(s => s.id)).toEqual(start.steps.map(s => s.id));
        const settings = (ids: readonly string[]) =>
          ids.map(id => twice.steps.find(s => s.id === id)!).map(s => [s.kind, s.stage]);
        expect(settings(copies)).toEqual(
          settings(start.steps.map(s => s.id).filter(id => doubled.includes(id))),
        );
        if (new Set(together.map(id => five.steps.findIndex(s => s.id === id))).size > 1) {
          const places = together.map(id => joined.steps.find(s => s.id === id)!.group);
          expect(places.every(g => g !== null)).toBe(true);
        }
      }),
    );
  });
});
