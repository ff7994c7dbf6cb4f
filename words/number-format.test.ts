import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNumber, written } from './number-format';

describe('a number that is typed', () => {
  it.each([
    ['20.5', 20.5],
    ['20,5', 20.5],
    ['-0.4', -0.4],
    ['\u22120,4', -0.4],
    ['+3', 3],
    ['.5', 0.5],
    [',5', 0.5],
    ['5.', 5],
    [' 7 ', 7],
    ['20.5 %', 20.5],
    ['30°', 30],
    ['1.5 EV', 1.5],
    ['12px', 12],
    ['1,234.5', 1234.5],
    ['1.234,5', 1234.5],
    ['1 234,5', 1234.5],
  ])('%s is %d', (text, value) => expect(readNumber(text)).toBe(value));

  it.each(['', ' ', '-', '.', 'abc', '1-2', '--1', '3 4 x 5', '1e5', 'NaN', 'Infinity'])('%j is none', text =>
    expect(readNumber(text)).toBeNull(),
  );

  it('without fractions has thousands', () => {
    expect(readNumber('6,000', 0)).toBe(6000);
    expect(readNumber('12.000', 0)).toBe(12_000);
    expect(readNumber('8,5', 0)).toBe(8.5);
  });

  it('is read back as it was written', () => {
    const shown = fc.record({
      shownTimes: fc.constantFrom(1, 100),
      unit: fc.constantFrom('', '°', '%'),
      decimals: fc.integer({ min: 0, max: 2 }),
      centred: fc.boolean(),
    });
    fc.assert(
      fc.property(shown, fc.integer({ min: -20_000, max: 20_000 }), (how, whole) => {
        const value = whole / 10 ** how.decimals / how.shownTimes;
        expect(readNumber(written(value, how, 'en-US'), how.decimals)! / how.shownTimes).toBeCloseTo(
          value,
          9,
        );
      }),
    );
  });
});
