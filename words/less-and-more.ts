import type { Field, Fields, NumberField } from '../core/settings/fields';
import { stepKind } from '../core/steps';
import { changeSetting } from '../core/treatment/edit';
import type { Step, Treatment } from '../core/treatment/treatment';
import type { Size } from './area-settings';
import type { Setting } from './setting';
import { nameOfSetting } from './setting-name';
import { settingsOfStep } from './step-settings';
import { aboutControl, aboutOption } from './told';

/** What a control does, told by a sentence and by what less and more of it would make. */

export interface Shown {
  /** The value in words. */
  said: string;
  treatment: Treatment;
  isNow: boolean;
}

export interface ControlTold {
  name: string;
  sentences: string[];
  /** Less, now, more; of a switch two; none of a control that is no number, choice or switch. */
  shown: Shown[];
}

/** How far less and more are from now, as a share of the whole control; as near to an end the two lie to one side. */
const APART = 0.3;
const NEAR_END = 0.08;

/** Three numbers along a control, of which one is `value`. */
export function threeAlong(
  value: number,
  { min, max, scale }: Pick<NumberField, 'min' | 'max' | 'scale'>,
): number[] {
  const isRatio = scale === 'ratio';
  const onto = (v: number) => (isRatio ? Math.log(v / min) / Math.log(max / min) : (v - min) / (max - min));
  const from = (t: number) => (t === now ? value : isRatio ? min * (max / min) ** t : min + t * (max - min));
  const now = onto(value);
  if (now < NEAR_END) return [now, now + APART, now + 2 * APART].map(from);
  if (now > 1 - NEAR_END) return [now - 2 * APART, now - APART, now].map(from);
  return [Math.max(0, now - APART), now, Math.min(1, now + APART)].map(from);
}

const shownOf = (setting: Setting, treatment: Treatment): Shown[] => {
  if (setting.type === 'number') {
    const { value, field, apply, written } = setting;
    return threeAlong(value, field).map(along => {
      const v = field.unit === 'whole' ? Math.round(along) : along;
      return {
        said: written(v),
        isNow: v === value,
        treatment: v === value ? treatment : apply(treatment, v),
      };
    });
  }
  const { value, options, apply, written } = setting;
  const at = options.indexOf(value);
  const near =
    options.length < 3
      ? [...options]
      : [-1, 0, 1].map(by => options[(at + by + options.length) % options.length]);
  return near.map(v => ({
    said: written(v),
    isNow: v === value,
    treatment: v === value ? treatment : apply(treatment, v),
  }));
};

/** The fields of a step that are no numbers or choices, by the names of their controls. */
function others(
  fields: Fields,
  at: readonly string[] = [],
): { name: string; path: string[]; field: Field }[] {
  return Object.entries(fields).flatMap(([key, field]) => {
    const path = [...at, key];
    if (field.type === 'group') return others(field.fields, path);
    return field.type === 'number' || field.type === 'choice'
      ? []
      : [{ name: nameOfSetting([key]), path, field }];
  });
}

const settingAt = (settings: object, path: readonly string[]): unknown =>
  path.reduce<unknown>((of, key) => (of as Record<string, unknown>)[key], settings);

/**
 * A control of a step by its name.
 * @param picture the photograph, where what is measured on it counts as well
 * @returns null where there is no such control, or nothing is said of it
 */
export function controlTold(
  treatment: Treatment,
  step: Step,
  name: string,
  picture: Size | null = null,
): ControlTold | null {
  const { kind } = step;
  const setting = settingsOfStep(treatment, step, picture).find(s => s.name === name);
  if (setting) {
    const about = aboutControl(kind, setting.path);
    if (about === null) return null;
    const option = setting.type === 'choice' ? aboutOption(kind, setting.path, setting.value) : null;
    const now = option && setting.type === 'choice' ? [`${setting.written(setting.value)}: ${option}`] : [];
    return { name, sentences: [about, ...now], shown: shownOf(setting, treatment) };
  }
  const other = others(stepKind(kind)?.fields ?? {}).find(o => o.name === name);
  const about = other ? aboutControl(kind, other.path.join('.')) : null;
  if (!other || about === null) return null;
  if (other.field.type !== 'flag') return { name, sentences: [about], shown: [] };
  const isOn = Boolean(settingAt(step.settings, other.path));
  const shown = [false, true].map(on => ({
    said: on ? 'On' : 'Off',
    isNow: on === isOn,
    treatment: on === isOn ? treatment : changeSetting(treatment, step.id, other.path, on),
  }));
  return { name, sentences: [about], shown };
}
