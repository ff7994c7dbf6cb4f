import { describe, expect, it } from 'vitest';
import { copyStep, placeStep } from './edit';
import { groupWithBefore, leaveGroup, nameGroup, runsOf, switchGroup, ungroup } from './groups';
import { parseTreatment, type Treatment } from './schema';

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
  t.steps.map(s => `${s.id}${s.group === null ? '' : `:${s.group}`}`).join(' ');

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
  it('do not reach across stages, and are left alone by the first step', () => {
    expect(groupWithBefore(five, 'e')).toBe(five);
    expect(groupWithBefore(five, 'a')).toBe(five);
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
