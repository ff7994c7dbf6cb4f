import { describe, expect, it } from 'vitest';
import { stepKinds } from '../core/steps';
import { read } from '../core/testing/pictures';
import type { Treatment } from '../core/treatment/treatment';
import { parseTreatment } from '../core/treatment/schema';
import type { Setting } from './setting';
import { settingsOfStep, VIVIDNESS } from './step-settings';

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
      for (const setting of all.filter(s => !s.derived)) {
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

  it('of an area: each part has its own under another name, measured on the photograph, and changes just that', () => {
    const parts = [
      { kind: 'oval', centre: [0.5, 0.5], radii: [0.2, 0.1], feather: 0.3 },
      { kind: 'oval', op: 'subtract', centre: [0.4, 0.5], radii: [0.1, 0.1] },
      { kind: 'hues', op: 'intersect', centre: 40, width: 50 },
      { kind: 'linear', op: 'intersect', from: [0.2, 0.2], to: [0.8, 0.8] },
    ];
    const treatment = read([{ id: 'one', kind: 'tint', mask: 'm' }], { masks: [{ id: 'm', parts }] });
    const photograph = { width: 3000, height: 2000 };
    const all = settingsOfStep(treatment, treatment.steps[0], photograph);
    const names = all.map(s => s.name);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toEqual(
      expect.arrayContaining(['Area part 1 softness', 'Area part 2 across', 'Area part 3 hue']),
    );
    const across = all.find(s => s.name === 'Area part 2 across')!;
    expect(across.value).toBe(0.2);
    const wider = across.type === 'number' ? across.apply(treatment, 0.5) : treatment;
    expect(
      wider.masks[0].parts.map((part, i) => ({ ...part, ...(i === 1 && { radii: [0.2, 0.1] }) })),
    ).toEqual(
      treatment.masks[0].parts.map((part, i) => ({ ...part, ...(i === 1 && { radii: [0.2, 0.1] }) })),
    );
    expect(wider.masks[0].parts[1]).toMatchObject({ radii: [0.25, 0.1] });
    for (const setting of all.filter(s => s.type === 'number' && s.name.startsWith('Area'))) {
      const value = other(setting);
      // eslint-disable-next-line no-restricted-syntax -- the value is one of this setting
      const made = setting.apply(treatment, value as never);
      expect(() => parseTreatment(JSON.parse(JSON.stringify(made)))).not.toThrow();
      const found = settingsOfStep(made, made.steps[0], photograph).find(s => s.name === setting.name);
      expect(found?.value).toBeCloseTo(value as number, 6);
    }
    // One part alone needs no number.
    const one = read([{ id: 'one', kind: 'tint', mask: 'm' }], {
      masks: [{ id: 'm', parts: parts.slice(0, 1) }],
    });
    expect(settingsOfStep(one, one.steps[0]).map(s => s.name)).toContain('Area softness');
  });

  it('of a wash: how vivid its pigment is, and none for a grey', () => {
    const wash = (colour: string) =>
      read([{ id: 'one', kind: 'wash', settings: { pigment: { kind: 'flat', colour } } }]);
    const vividOf = (of: Treatment) => settingsOfStep(of, of.steps[0]).find(s => s.name === VIVIDNESS);
    const treatment = wash('#b05030');
    const vivid = vividOf(treatment)!;
    for (const asked of [0.1, 0.4, 0.9]) {
      const made = vivid.type === 'number' ? vivid.apply(treatment, asked) : treatment;
      expect(vividOf(made)!.value).toBeCloseTo(asked, 1);
      expect(settingsOfStep(made, made.steps[0]).filter(s => !s.derived)).toEqual(
        settingsOfStep(treatment, treatment.steps[0])
          .filter(s => !s.derived)
          .map(s => ({ ...s, apply: expect.any(Function), written: expect.any(Function) })),
      );
    }
    expect(vividOf(wash('#808080'))).toBeUndefined();
  });
});
