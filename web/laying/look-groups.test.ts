import { expect, it } from 'vitest';
import { bareTreatment } from '../../core/treatment/treatment';
import { read } from '../../core/testing/pictures';
import { grouped, madeOf, stepsOf, type ListedLook } from './look-groups';

const look = (name: string, group: string, more: Partial<ListedLook> = {}): ListedLook => ({
  key: name,
  name,
  group,
  treatment: bareTreatment(),
  ...more,
});

it('looks stand under their groups, both in the order in which they come', () => {
  const groups = grouped([look('a', 'Cold'), look('b', 'Warm'), look('c', 'Cold')]);
  expect([...groups].map(([group, all]) => [group, all.map(l => l.name).join()])).toEqual([
    ['Cold', 'a,c'],
    ['Warm', 'b'],
  ]);
});

it('a look that there is no room for is left out, and anything else that goes wrong is told', () => {
  const groups = grouped([look('a', 'Cold'), look('full', 'Cold')]);
  const lay = ({ name, treatment }: ListedLook) => {
    if (name === 'full') throw new RangeError('more than 200 steps');
    return treatment;
  };
  expect([...madeOf(groups, lay).keys()]).toEqual(['a']);
  const wrong = () => {
    throw new TypeError('wrong');
  };
  expect(() => madeOf(groups, wrong)).toThrow('wrong');
});

it('a look says how many steps it has, and how many use it where it is shared', () => {
  const treatment = read([{ kind: 'mono' }, { kind: 'grain' }]);
  expect(stepsOf(look('a', 'Cold', { treatment }))).toBe('2 steps');
  expect(stepsOf(look('a', 'Cold', { treatment: read([{ kind: 'mono' }]) }))).toBe('1 step');
  const shared = { id: '1', name: 'a', group: 'x', revision: 1, treatment, since: {}, uses: 9 };
  expect(stepsOf(look('a', 'Cold', { treatment, shared }))).toBe('2 steps, 9 use it');
});
