import { expect, it } from 'vitest';
import { changedInWords } from './held-words';

it('tells what was changed of a step in plain words', () => {
  expect(changedInWords(['hue'])).toBe('hue');
  expect(changedInWords(['keepLightness', 'step.strength'])).toBe('keep tones and strength');
  expect(changedInWords(['a', 'b', 'c'])).toBe('a, b and c');
  expect(changedInWords(['a', 'b', 'c', 'd', 'e'])).toBe('a, b and 3 more');
});
