import { expect, it } from 'vitest';
import { read } from '../../core/testing/pictures';
import { changeSetting, changeStep, removeStep } from '../../core/treatment/edit';
import { wordsOfChange } from './change-words';

const split = read([
  { id: 'a', kind: 'split-tone', stage: 'tone', settings: { highlights: { hue: 42, saturation: 0.3 } } },
  { id: 'b', kind: 'grain', stage: 'finish' },
]);

it('one number or choice is told with what it was and is, in the words of its control', () => {
  const hue = changeSetting(split, 'a', ['highlights', 'hue'], 38);
  expect(wordsOfChange('Split tone highlights hue', split, hue)).toBe('Split tone highlights hue 42° → 38°');
  const weak = changeStep(split, 'a', { strength: 0.7 });
  expect(wordsOfChange('Split tone strength', split, weak)).toBe('Split tone strength 100 → 70');
  const coarse = changeSetting(split, 'b', ['character'], 'coarse');
  expect(wordsOfChange('Grain character', split, coarse)).toBe('Grain character Classic → Coarse');
  // A name that says the value says what it was as well, once.
  expect(wordsOfChange('Grain character Coarse', split, coarse)).toBe('Grain character Classic → Coarse');
});

it('anything else is told by its name', () => {
  const both = changeSetting(changeStep(split, 'a', { strength: 0.7 }), 'b', ['size'], 0.2);
  for (const [label, before, after] of [
    ['Remove grain', split, removeStep(split, 'b')],
    ['Add grain', removeStep(split, 'b'), split],
    ['Lay on 2 steps', split, both],
    ['Opened', null, split],
  ] as const) {
    expect(wordsOfChange(label, before, after)).toBe(label);
  }
  expect(wordsOfChange('', split, both)).toBe('Changed');
});
