import type { NumberField } from '../core/settings/fields';
import type { Treatment } from '../core/treatment/treatment';
import { writtenAs } from './units';

/** A number or a choice of a treatment, under the name of its control. */

interface Named<V> {
  /** As its control is called. */
  name: string;
  /** Where it is in its step, joined by dots: `shadows.hue`; `area.feather` and the like, `mix`, `strength`, `group`, `whole`. */
  path: string;
  value: V;
  /** The treatment with another value. */
  apply: (treatment: Treatment, value: V) => Treatment;
  /** A value in words. */
  written: (value: V) => string;
  /** What the change is called in the history. */
  label: string;
  /** It is read from other settings, which are told of by themselves. */
  derived?: true;
}

export interface NumberSetting extends Named<number> {
  type: 'number';
  field: NumberField;
}

export interface ChoiceSetting extends Named<string> {
  type: 'choice';
  options: readonly string[];
}

export type Setting = NumberSetting | ChoiceSetting;

/** A share of the whole. */
export const share: NumberField = { type: 'number', min: 0, max: 1, default: 1, unit: 'fraction' };

export const number = (
  field: NumberField,
  of: Omit<NumberSetting, 'type' | 'field' | 'written'>,
): NumberSetting => ({
  ...of,
  type: 'number',
  field,
  written: value => writtenAs(field, value),
});
