import { expect, it } from 'vitest';
import { changedInWords } from './held-words';

it('tells what was changed of a step in plain words', () => {
  expect(changedInWords(['hue'])).toBe('hue');
  expect(changedInWords(['keepLightness', 'step.strength'])).toBe('keep tones and strength');
  expect(changedInWords(['hue', 'size', 'seed'])).toBe('hue, size and seed');
  expect(changedInWords(['hue', 'size', 'seed', 'depth', 'bleed'])).toBe('hue, size and 3 more');
});
