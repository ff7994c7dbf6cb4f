import fc from 'fast-check';
import { isDeepStrictEqual } from 'node:util';
import { expect, it } from 'vitest';
import { jsonEqual } from './json-equal';

it('says of any two JSON values what the platform says of them', () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 4 }), fc.jsonValue({ maxDepth: 4 }), (a, b) => {
      const [one, other] = [a, b].map(v => JSON.parse(JSON.stringify(v)) as unknown);
      expect(jsonEqual(one, structuredClone(one))).toBe(true);
      expect(jsonEqual(one, other)).toBe(isDeepStrictEqual(one, other));
    }),
  );
});

it('finds one number that differs, and takes what is left out for undefined', () => {
  const of = (x: number) => ({
    steps: [
      {
        id: 's',
        settings: {
          points: [
            [0, 0],
            [1, x],
          ],
        },
      },
    ],
  });
  expect(jsonEqual(of(1), of(1))).toBe(true);
  expect(jsonEqual(of(1), of(0.5))).toBe(false);
  expect(jsonEqual({ a: 1, look: undefined }, { a: 1 })).toBe(true);
  expect(jsonEqual({ a: undefined, b: 1 }, { a: 1, b: undefined })).toBe(false);
  expect(jsonEqual([1], { 0: 1 })).toBe(false);
});
