import { mixNames } from '../core/colour/mixes';
import type { ChoiceField, Fields, NumberField } from '../core/settings/fields';
import { stepKind } from '../core/steps';
import type { Pigment } from '../core/colour/pigments';
import { atVividness, vividnessOf } from '../core/colour/vividness';
import { toners, type Bath } from '../core/steps/baths';
import { changeSetting, changeStep } from '../core/treatment/edit';
import { groupOf, strengthenGroup } from '../core/treatment/groups';
import type { Step, Treatment } from '../core/treatment/treatment';
import { wordFor, wordWithin } from './words';
import { nameOfStep } from './step-names';
import { areaSettings, type Size } from './area-settings';
import { number, share, type Setting } from './setting';
import { nameOfSetting } from './setting-name';

/** The numbers and choices of a step, each under the name of its control: what a test strip tries, and the history tells of. */

/** The control of the strength of all steps together. */
export const WHOLE_STRENGTH = 'Strength of the whole treatment';

/** The control of how vivid a pigment is, which its colours tell. */
export const VIVIDNESS = 'Vividness';
export const vividField: NumberField = { ...share, min: 0.02 };
/** A pigment below it has no hue to be vivid in. */
export const LEAST_VIVID = 0.01;

/** The words of a bath's settings, as its controls have them. */
const bathWords: Record<string, string> = { start: 'starts in' };
const startWords: Record<string, string> = {
  highlights: 'The lights',
  shadows: 'The darks',
  even: 'All tones alike',
};

type Values = Record<string, unknown>;

/** The settings of a step that its panel shows now. */
function settingsOf(step: Step, fields: Fields, values: Values, path: readonly string[]): Setting[] {
  const called = nameOfStep(step);
  return Object.entries(fields).flatMap(([key, field]): Setting[] => {
    const at = [...path, key];
    const name = nameOfSetting(at);
    const label = `${called} ${name.toLowerCase()}`;
    const set = (treatment: Treatment, value: unknown) => changeSetting(treatment, step.id, at, value);
    const whose = { name, path: at.join('.'), label };
    switch (field.type) {
      case 'number':
        return [number(field, { ...whose, value: Number(values[key]), apply: set })];
      case 'choice':
        return [
          {
            type: 'choice',
            ...whose,
            value: String(values[key]),
            options: field.options,
            apply: set,
            written: value => wordWithin(key, value),
          },
        ];
      case 'group': {
        const { shownWhen } = field;
        if (shownWhen && values[shownWhen.field] !== shownWhen.is) return [];
        return settingsOf(step, field.fields, values[key] as Values, at);
      }
      case 'list':
        return (values[key] as Values[]).flatMap((item, i) =>
          listed(step, field.fields, item, i, (treatment, changed) => {
            const { settings } = treatment.steps.find(s => s.id === step.id)!;
            const now = ({ ...settings } as Values)[key] as Values[];
            return set(
              treatment,
              now.map((each, n) => (n === i ? { ...each, ...changed(each) } : each)),
            );
          }),
        );
      case 'pigment': {
        const pigment = values[key] as Pigment;
        const value = vividnessOf(pigment);
        if (value < LEAST_VIVID) return [];
        const apply = (treatment: Treatment, asked: number) => set(treatment, atVividness(pigment, asked));
        const vivid = number(vividField, {
          name: VIVIDNESS,
          path: 'vividness',
          label: `${called} vividness`,
          value,
          apply,
        });
        return [{ ...vivid, derived: true }];
      }
      default:
        return [];
    }
  });
}

/** The name of a setting of a bath, by its place in the row. */
export const nameOfListed = (place: number, key: string): string =>
  `Bath ${place + 1} ${bathWords[key] ?? wordFor(key).toLowerCase()}`;

/** The settings of one bath. */
function listed(
  step: Step,
  fields: Fields,
  item: Values,
  place: number,
  change: (treatment: Treatment, changed: (now: Values) => Values) => Treatment,
): Setting[] {
  const called = nameOfStep(step);
  const numbers = (key: string, field: NumberField | ChoiceField): Setting => {
    const name = nameOfListed(place, key);
    const whose = { name, path: key, label: `${called} ${name.toLowerCase()}` };
    if (field.type === 'number') {
      const apply = (treatment: Treatment, value: number) => change(treatment, () => ({ [key]: value }));
      return number(field, { ...whose, value: Number(item[key]), apply });
    }
    return {
      type: 'choice',
      ...whose,
      value: String(item[key]),
      options: field.options,
      // Another toner starts where that one does.
      apply: (treatment, value) =>
        change(treatment, () =>
          key === 'toner' ? { toner: value, start: toners[value as Bath['toner']].starts } : { [key]: value },
        ),
      written: value => (key === 'start' ? startWords[value] : wordFor(value)),
    };
  };
  return Object.entries(fields).flatMap(([key, field]) =>
    field.type === 'number' || field.type === 'choice' ? [numbers(key, field)] : [],
  );
}

/**
 * All numbers and choices of a step of a treatment that its panel shows now, and the strength of the whole.
 * @param picture the photograph, where what is measured on it counts as well
 */
export function settingsOfStep(treatment: Treatment, step: Step, picture: Size | null = null): Setting[] {
  const called = nameOfStep(step);
  const group = groupOf(treatment, step.group);
  const kind = stepKind(step.kind);
  return [
    number(share, {
      name: 'Strength',
      path: 'strength',
      label: `${called} strength`,
      value: step.strength,
      apply: (of, strength) => changeStep(of, step.id, { strength }),
    }),
    ...(group
      ? [
          number(share, {
            name: `Strength of ${group.name}`,
            path: 'group',
            label: `${group.name} strength`,
            value: group.strength,
            apply: (of: Treatment, strength: number) => strengthenGroup(of, step.id, strength),
          }),
        ]
      : []),
    ...(kind ? settingsOf(step, kind.fields, { ...step.settings }, []) : []),
    ...areaSettings(treatment, step, picture),
    {
      type: 'choice',
      name: 'Mix',
      path: 'mix',
      label: `${called} mix`,
      value: step.mix,
      options: mixNames,
      apply: (of, mix) => changeStep(of, step.id, { mix: mix as Step['mix'] }),
      written: wordFor,
    },
    number(share, {
      name: WHOLE_STRENGTH,
      path: 'whole',
      label: 'Strength of the whole',
      value: treatment.strength,
      apply: (of, strength) => ({ ...of, strength }),
    }),
  ];
}
