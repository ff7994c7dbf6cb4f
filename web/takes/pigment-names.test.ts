import { expect, it } from 'vitest';
import { starterBox } from '../../core/colour/pigments';
import { read } from '../../core/testing/pictures';
import { learnPigments } from './pigment-names';
import { nameOfStep } from './useEdits';

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
