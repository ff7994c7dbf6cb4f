import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { NumberField } from '../../core/settings/fields';
import { stepKinds } from '../../core/steps';
import { read } from '../../core/testing/pictures';
import { parseTreatment } from '../../core/treatment/schema';
import { firstRange, rowsOf, triedOf, valuesOf, type Setting } from './tried';

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

describe('what can be tried of a step', () => {
  const other = (setting: Setting): number | string => {
    if (setting.type === 'choice') return setting.options.find(o => o !== setting.value)!;
    const { min, max } = setting.field;
    return setting.value === max ? min : max;
  };

  it.each(stepKinds.map(({ kind }) => kind))(
    'of %s: each is found under one name, changes just that, and makes a treatment',
    kind => {
      const treatment = read([{ id: 'one', kind }]);
      const [step] = treatment.steps;
      const all = triedOf(treatment, step);
      const names = all.map(s => s.name);
      expect(new Set(names).size).toBe(names.length);
      for (const setting of all) {
        const value = other(setting);
        // eslint-disable-next-line no-restricted-syntax -- the value is one of this setting
        const made = setting.apply(treatment, value as never);
        expect(() => parseTreatment(JSON.parse(JSON.stringify(made)))).not.toThrow();
        const found = triedOf(made, made.steps[0]).find(s => s.name === setting.name);
        expect(found?.value).toBe(value);
        // eslint-disable-next-line no-restricted-syntax -- the value is its own
        expect(setting.apply(made, setting.value as never)).toEqual(treatment);
      }
    },
  );

  it('of baths: each bath has its own; another toner starts where that one does', () => {
    const treatment = read([
      {
        id: 'one',
        kind: 'baths',
        stage: 'tone',
        settings: { baths: [{ toner: 'sepia' }, { toner: 'gold', start: 'highlights' }] },
      },
    ]);
    const toner = triedOf(treatment, treatment.steps[0]).find(s => s.name === 'Bath 2 toner')!;
    expect(toner.type === 'choice' && toner.apply(treatment, 'selenium').steps[0].settings).toMatchObject({
      baths: [{ toner: 'sepia' }, { toner: 'selenium', start: 'shadows' }],
    });
  });
});
