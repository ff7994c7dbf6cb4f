import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stepKind, stepKinds } from '../core/steps';
import type { Field, Fields } from '../core/settings/fields';
import { read } from '../core/testing/pictures';
import { parseTreatment } from '../core/treatment/schema';
import { controlTold, threeAlong } from './less-and-more';
import { settingsOfStep } from './step-settings';
import told from './told.json' with { type: 'json' };
import { aboutControl, aboutOption, aboutStep } from './told';

const masks = [
  {
    id: 'm',
    parts: [
      { kind: 'oval', centre: [0.5, 0.5], radii: [0.2, 0.1] },
      { kind: 'hues', centre: 40, width: 50 },
      { kind: 'linear', op: 'intersect', from: [0.2, 0.2], to: [0.8, 0.8] },
    ],
  },
];
const SIZE = { width: 3000, height: 2000 };

/** A step of a kind on an area, with a bath where it has any. */
const of = (kind: string, settings: object = {}) =>
  read(
    [
      {
        id: 'one',
        kind,
        mask: 'm',
        settings: { ...(kind === 'baths' && { baths: [{ toner: 'sepia' }] }), ...settings },
      },
    ],
    {
      masks,
    },
  );

/** Settings of a kind that its panel shows in one of its ways only. */
const ways: Record<string, object[]> = {
  mono: ['channels', 'response', 'local-contrast'].map(method => ({ method })),
};

/** The paths of all fields of a kind that are no groups. */
const paths = (fields: Fields, at: string[] = []): { path: string; field: Field }[] =>
  Object.entries(fields).flatMap(([key, field]) => {
    if (field.type === 'group') return paths(field.fields, [...at, key]);
    if (field.type === 'list') return paths(field.fields, at);
    return [{ path: [...at, key].join('.'), field }];
  });

describe('what controls do', () => {
  it.each(stepKinds.map(({ kind }) => kind))(
    'every control and every choice of %s has a sentence, and three pictures that differ',
    kind => {
      expect(aboutStep(kind)).toMatch(/^[A-Z].{20,}\.$/);
      for (const settings of [{}, ...(ways[kind] ?? [])]) {
        const treatment = of(kind, settings);
        const [step] = treatment.steps;
        for (const setting of settingsOfStep(treatment, step, SIZE)) {
          const said = controlTold(treatment, step, setting.name, SIZE);
          expect(said, `${kind}: ${setting.name} (${setting.path})`).not.toBeNull();
          expect(said!.sentences.join(' ')).not.toMatch(/[{}]|undefined/);
          const made = said!.shown.map(({ treatment: each }) => JSON.stringify(each));
          expect(new Set(made).size, setting.name).toBe(made.length);
          expect(said!.shown.filter(s => s.isNow)).toHaveLength(1);
          for (const each of made) expect(() => parseTreatment(JSON.parse(each))).not.toThrow();
          if (setting.type === 'choice') {
            for (const option of setting.options) {
              expect(
                aboutOption(kind, setting.path, option),
                `${kind}.${setting.path}.${option}`,
              ).not.toBeNull();
            }
          }
        }
      }
      for (const { path, field } of paths(stepKind(kind)!.fields)) {
        if (field.type === 'curve' || field.type === 'position') continue;
        expect(aboutControl(kind, path), `${kind}.${path}`).not.toBeNull();
      }
    },
  );

  it('name what they are of', () => {
    expect(aboutControl('split-tone', 'shadows.hue')).toBe(
      'The hue of the shadows, shown at full strength while it is chosen.',
    );
    expect(aboutControl('mono', 'response.blue')).toMatch(/^How light blue becomes/);
    expect(aboutControl('mono', 'channels.red')).toBe('How much red light counts in the grey.');
    expect(aboutControl('inks', 'tones.darks.c')).toMatch(/in the shadows/);
    expect(aboutControl('inks', 'hues.red.c')).toMatch(/in red things/);
    expect(aboutControl('colour-bands', 'green.hue')).toMatch(/^Turns green towards/);
  });

  it('a switch is shown off and on', () => {
    const treatment = of('tint');
    expect(controlTold(treatment, treatment.steps[0], 'No such control')).toBeNull();
    const balance = of('three-way-balance');
    const said = controlTold(balance, balance.steps[0], 'Keep tones')!;
    expect(said.shown.map(s => [s.said, s.isNow])).toEqual([
      ['Off', false],
      ['On', true],
    ]);
  });

  it('no sentence is of a kind that there is not', () => {
    const kinds = [...stepKinds.map(k => k.kind), 'area', 'reach', 'mix', 'strength', 'whole', 'group'];
    for (const key of [...Object.keys(told.controls), ...Object.keys(told.options)]) {
      expect(kinds).toContain(key.split('.')[0]);
    }
    expect(Object.keys(told.steps).toSorted()).toEqual(stepKinds.map(k => k.kind).toSorted());
  });
});

describe('three along a control', () => {
  it('rise, stay inside, and one of them is now', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.boolean(), (t, ratio) => {
        const field = ratio ? ({ min: 0.2, max: 5, scale: 'ratio' } as const) : { min: -1, max: 1 };
        const value = ratio ? 0.2 * 25 ** t : -1 + 2 * t;
        const three = threeAlong(value, field);
        expect(three).toContain(value);
        expect(three[0]).toBeGreaterThanOrEqual(field.min - 1e-9);
        expect(three[2]).toBeLessThanOrEqual(field.max + 1e-9);
        expect(three[0]).toBeLessThan(three[1]);
        expect(three[1]).toBeLessThan(three[2]);
      }),
    );
  });
});
