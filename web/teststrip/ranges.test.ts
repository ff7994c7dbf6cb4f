import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { NumberField } from '../../core/settings/fields';
import { firstRange, rowsOf, valuesOf } from './ranges';

const fields = fc
  .constantFrom<NumberField['unit']>('ev', 'amount', 'fraction', 'hue', 'plain', 'whole', 'length')
  .chain(unit => {
    const [min, max] = {
      ev: [-4, 4],
      amount: [-1, 1],
      fraction: [0, 1],
      hue: [0, 360],
      turn: [0, 1],
      plain: [-2, 2],
      whole: [0, 40],
      length: [0, 0.5],
    }[unit];
    return fc.double({ min: 0, max: 1, noNaN: true }).map(at => ({
      field: { type: 'number', unit, min, max, default: min } as NumberField,
      value: unit === 'whole' ? Math.round(min + at * (max - min)) : min + at * (max - min),
    }));
  });
const ratio: NumberField = { type: 'number', unit: 'plain', min: 0.25, max: 4, default: 1, scale: 'ratio' };

describe('the values of a test strip', () => {
  it('rise, lie in the field, are as many as asked for where there is room, and hold the one that is set', () => {
    fc.assert(
      fc.property(fields, fc.integer({ min: 3, max: 9 }), ({ field, value }, count) => {
        const { from, to } = firstRange(field, value);
        const values = valuesOf(field, value, from, to, count);
        expect(values).toContain(value);
        expect(values).toHaveLength(count);
        values.forEach((v, i) => {
          if (i) expect(v).toBeGreaterThan(values[i - 1]);
          expect(v).toBeGreaterThanOrEqual(field.min);
          expect(v).toBeLessThanOrEqual(field.max);
        });
        // A range that is turned round is tried turned round.
        expect(valuesOf(field, value, to, from, count)).toEqual(values.slice().reverse());
      }),
    );
  });

  it('of a ratio are multiplied evenly', () => {
    const values = valuesOf(ratio, 1, 0.25, 4, 5);
    expect(values).toEqual([0.25, 0.5, 1, 2, 4]);
  });

  it('that are the same as they are shown hang once', () => {
    const field: NumberField = { type: 'number', unit: 'whole', min: 1, max: 4, default: 1 };
    expect(valuesOf(field, 2, 1, 4, 9)).toEqual([1, 2, 3, 4]);
  });

  it('of choices hang in rows that are full but for the last', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), count => {
        const { columns, rows } = rowsOf(count);
        expect(columns).toBeLessThanOrEqual(7);
        expect(columns * rows).toBeGreaterThanOrEqual(count);
        expect(columns * (rows - 1)).toBeLessThan(count);
      }),
    );
  });
});
