import { describe, expect, it } from 'vitest';
import { stepKinds } from '../../core/steps';
import { read } from '../../core/testing/pictures';
import { parseTreatment } from '../../core/treatment/schema';
import { settingsOfStep, type Setting } from './step-settings';

describe('the numbers and choices of a step', () => {
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
      const all = settingsOfStep(treatment, step);
      const names = all.map(s => s.name);
      expect(new Set(names).size).toBe(names.length);
      for (const setting of all) {
        const value = other(setting);
        // eslint-disable-next-line no-restricted-syntax -- the value is one of this setting
        const made = setting.apply(treatment, value as never);
        expect(() => parseTreatment(JSON.parse(JSON.stringify(made)))).not.toThrow();
        const found = settingsOfStep(made, made.steps[0]).find(s => s.name === setting.name);
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
    const toner = settingsOfStep(treatment, treatment.steps[0]).find(s => s.name === 'Bath 2 toner')!;
    expect(toner.type === 'choice' && toner.apply(treatment, 'selenium').steps[0].settings).toMatchObject({
      baths: [{ toner: 'sepia' }, { toner: 'selenium', start: 'shadows' }],
    });
  });
});
