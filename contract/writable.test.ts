import fc from 'fast-check';
import { expect, it } from 'vitest';
import { unwritable } from './writable';

it('names where a character stands that cannot be kept', () => {
  expect(unwritable({ title: 'a\0b' })).toBe('title: holds a character that cannot be kept');
  expect(unwritable({ steps: [{ name: '\ud800' }] })).toBe(
    'steps.0.name: holds a character that cannot be kept',
  );
  expect(unwritable({ 'a\0': 1 })).toBe('holds a character that cannot be kept');
});

it('refuses what is nested without end, and does not fall over it', () => {
  let deep: unknown = 1;
  for (let i = 0; i < 100_000; i++) deep = [deep];
  expect(unwritable({ deep })).toBe('deep: is nested too deeply');
});

it('finds nothing in what JSON text in UTF-8 can hold, and agrees with what the encoding loses', () => {
  fc.assert(
    fc.property(fc.jsonValue(), value => {
      const text = JSON.stringify(value);
      const isKept = !text.includes('\\u0000') && Buffer.from(text).toString() === text;
      if (isKept && !/\\ud[89a-f]/i.test(text)) expect(unwritable(value)).toBeNull();
    }),
  );
});
