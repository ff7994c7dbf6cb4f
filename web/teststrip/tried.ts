import { mixNames } from '../../core/colour/mixes';
import type { ChoiceField, Fields, NumberField } from '../../core/settings/fields';
import { stepKind } from '../../core/steps';
import { toners, type Bath } from '../../core/steps/baths';
import { changeSetting, changeStep } from '../../core/treatment/edit';
import { groupOf, strengthenGroup } from '../../core/treatment/groups';
import type { Step, Treatment } from '../../core/treatment/schema';
import { wordFor, wordWithin } from '../app/words';
import { nameOfSetting } from '../controls/setting-name';
import { units, writtenAs } from '../controls/units';

/** What a test strip can try: each number and each choice of a step, under the name of its control. */

interface Tried<V> {
  /** As its control is called. */
  name: string;
  value: V;
  /** The treatment with another value. */
  apply: (treatment: Treatment, value: V) => Treatment;
  /** A value in words. */
  written: (value: V) => string;
  /** What the change is called in the history. */
  label: string;
}

export interface TriedNumber extends Tried<number> {
  type: 'number';
  field: NumberField;
}

export interface TriedChoice extends Tried<string> {
  type: 'choice';
  options: readonly string[];
}

export type Setting = TriedNumber | TriedChoice;

const share: NumberField = { type: 'number', min: 0, max: 1, default: 1, unit: 'fraction' };

const number = (field: NumberField, of: Omit<TriedNumber, 'type' | 'field' | 'written'>): TriedNumber => ({
  ...of,
  type: 'number',
  field,
  written: value => writtenAs(field, value),
});

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
  const called = step.name || wordFor(step.kind);
  return Object.entries(fields).flatMap(([key, field]): Setting[] => {
    const at = [...path, key];
    const name = nameOfSetting(at);
    const label = `${called} ${name.toLowerCase()}`;
    const set = (treatment: Treatment, value: unknown) => changeSetting(treatment, step.id, at, value);
    switch (field.type) {
      case 'number':
        return [number(field, { name, label, value: Number(values[key]), apply: set })];
      case 'choice':
        return [
          {
            type: 'choice',
            name,
            label,
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
      default:
        return [];
    }
  });
}

/** The settings of one bath. */
function listed(
  step: Step,
  fields: Fields,
  item: Values,
  place: number,
  change: (treatment: Treatment, changed: (now: Values) => Values) => Treatment,
): Setting[] {
  const called = step.name || wordFor(step.kind);
  const numbers = (key: string, field: NumberField | ChoiceField): Setting => {
    const name = `Bath ${place + 1} ${bathWords[key] ?? wordFor(key).toLowerCase()}`;
    const label = `${called} ${name.toLowerCase()}`;
    if (field.type === 'number') {
      const apply = (treatment: Treatment, value: number) => change(treatment, () => ({ [key]: value }));
      return number(field, { name, label, value: Number(item[key]), apply });
    }
    return {
      type: 'choice',
      name,
      label,
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

/** All that can be tried of a step of a treatment. */
export function triedOf(treatment: Treatment, step: Step): Setting[] {
  const called = step.name || wordFor(step.kind);
  const group = groupOf(treatment, step.group);
  const kind = stepKind(step.kind);
  return [
    number(share, {
      name: 'Strength',
      label: `${called} strength`,
      value: step.strength,
      apply: (of, strength) => changeStep(of, step.id, { strength }),
    }),
    ...(group
      ? [
          number(share, {
            name: `Strength of ${group.name}`,
            label: `${group.name} strength`,
            value: group.strength,
            apply: (of: Treatment, strength: number) => strengthenGroup(of, step.id, strength),
          }),
        ]
      : []),
    ...(kind ? settingsOf(step, kind.fields, { ...step.settings }, []) : []),
    {
      type: 'choice',
      name: 'Mix',
      label: `${called} mix`,
      value: step.mix,
      options: mixNames,
      apply: (of, mix) => changeStep(of, step.id, { mix: mix as Step['mix'] }),
      written: wordFor,
    },
  ];
}

/** How far a range reaches at first to either side, as a share of the whole; hues are near one another. */
const reachOf = ({ unit }: NumberField) => (unit === 'hue' || unit === 'turn' ? 1 / 12 : 0.3);

const along = ({ min, max, scale }: NumberField) => {
  const isRatio = scale === 'ratio';
  const [low, high] = isRatio ? [Math.log(min), Math.log(max)] : [min, max];
  return {
    to: (value: number) => ((isRatio ? Math.log(value) : value) - low) / (high - low),
    from: (share: number) => {
      const value = low + share * (high - low);
      return isRatio ? Math.exp(value) : value;
    },
  };
};

/** A value in the steps that its control shows, within the field. */
function rounded(field: NumberField, value: number): number {
  const { decimals, shownTimes } = units[field.unit];
  const shown = Number((value * shownTimes).toFixed(decimals)) / shownTimes;
  return Math.min(field.max, Math.max(field.min, shown));
}

/** The range that is tried first: about the value, moved in where it would leave the field. */
export function firstRange(field: NumberField, value: number): { from: number; to: number } {
  const track = along(field);
  const at = track.to(value);
  const reach = reachOf(field);
  const low = Math.min(Math.max(0, at - reach), 1 - 2 * reach);
  return {
    from: rounded(field, track.from(low)),
    to: rounded(field, track.from(low + 2 * reach)),
  };
}

/**
 * Even values from one to another, ratios evenly multiplied, each once; the nearest gives way to the value that is set,
 * so that it hangs among them.
 */
export function valuesOf(
  field: NumberField,
  value: number,
  from: number,
  to: number,
  count: number,
): number[] {
  const track = along(field);
  const [first, last] = [track.to(Math.min(from, to)), track.to(Math.max(from, to))];
  const even = Array.from({ length: count }, (_, i) =>
    rounded(field, track.from(first + ((last - first) * i) / Math.max(1, count - 1))),
  );
  const isWithin = value >= Math.min(from, to) && value <= Math.max(from, to);
  if (isWithin && !even.includes(value)) {
    const away = even.map(v => Math.abs(track.to(v) - track.to(value)));
    even[away.indexOf(Math.min(...away))] = value;
  }
  const rising = [...new Set(even)].sort((a, b) => a - b);
  return from <= to ? rising : rising.reverse();
}

/** How choices hang, in as few rows as leave each wide enough to be seen. */
export function rowsOf(count: number, most = 7): { columns: number; rows: number } {
  const rows = Math.ceil(count / most);
  return { columns: Math.ceil(count / rows), rows };
}
