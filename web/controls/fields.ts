import type { ComponentType } from 'react';
import type { Field, Fields } from '../../core/settings/fields';
import type { SetSetting } from '../takes/edits';

/** What the control of a setting is given, whatever its kind of field. */

export type Values = Record<string, unknown>;

export interface FieldProps<F extends Field = Field> {
  name: string;
  field: F;
  /** The setting and its neighbours. */
  values: Values;
  beside: Fields;
  /** Where the setting lies. */
  path: readonly string[];
  /** Must stay the same function, so that only what changes is drawn again. */
  set: SetSetting;
  /** What the settings are of, where their names alone would not tell; and whose words they are. */
  called?: string;
  within?: string;
}

/** The control of each kind of field; null where it is set elsewhere: on the picture, in a list. */
export type Controls = {
  [T in Field['type']]: ComponentType<FieldProps<Extract<Field, { type: T }>>> | null;
};

export interface FieldsProps {
  fields: Fields;
  values: Values;
  /** Where these fields lie in the settings, for names and paint. */
  path?: readonly string[];
  set: SetSetting;
  called?: string;
  within?: string;
}
