import { expect, it } from 'vitest';
import { starterBox } from '../../core/colour/pigments';
import { read } from '../../core/testing/pictures';
import { learnPigments } from '../../words/pigment-names';
import { namesOfAlternatives, nameOfStep } from '../../words/step-names';

const wash = (pigment: object, name = '') => read([{ kind: 'wash', name, settings: { pigment } }]).steps[0];

it('a wash is called after its pigment, from the box that ships or one that is kept, unless it has a name', () => {
  const [first] = starterBox;
  expect(nameOfStep(wash(first.pigment))).toBe(`${first.name} wash`);
  expect(nameOfStep(wash(first.pigment, 'Cheeks'))).toBe('Cheeks');
  const own = { kind: 'flat', colour: '#123456' } as const;
  expect(nameOfStep(wash(own))).toBe('Wash');
  learnPigments([{ pigment: own, name: 'Tar' }]);
  expect(nameOfStep(wash(own))).toBe('Tar wash');
  expect(nameOfStep(read([{ kind: 'grain' }]).steps[0])).toBe('Grain');
  expect(nameOfStep(undefined)).toBe('');
});

it('alternatives have names that differ: their own, what they are set to, or a number', () => {
  const named = (...steps: object[]) => namesOfAlternatives(read(steps).steps);
  const mono = (method: string, name = '') => ({ kind: 'mono', name, settings: { method } });
  expect(named(mono('luminance'), mono('average'))).toEqual(['Luminance', 'Average']);
  expect(named(mono('luminance'), mono('luminance'))).toEqual(['Mono 1', 'Mono 2']);
  expect(named(mono('response'), mono('average'), mono('response'))).toEqual([
    'Response by hue 1',
    'Average',
    'Response by hue 2',
  ]);
  expect(named(mono('luminance', 'Plain'), mono('luminance'))).toEqual(['Plain', 'Mono']);
  expect(named({ kind: 'tint' }, { kind: 'split-tone' }, { kind: 'tint' })).toEqual([
    'Tint 1',
    'Split tone',
    'Tint 2',
  ]);
  expect(named({ kind: 'grain' })).toEqual(['Grain']);
});
