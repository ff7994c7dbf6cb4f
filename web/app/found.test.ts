import { expect, it } from 'vitest';
import { isFound } from './found';

it('finds by parts of words, in any order and case', () => {
  expect(isFound('cold HARB', 'Harbour cold')).toBe(true);
  expect(isFound('cold warm', 'Harbour cold')).toBe(false);
  expect(isFound('', 'Harbour cold')).toBe(true);
  expect(isFound('  ', 'Harbour cold')).toBe(true);
});
