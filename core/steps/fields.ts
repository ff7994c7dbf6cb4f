import { z } from 'zod';

/**
 * The settings of a step kind, described once: the Zod schema, the default and the generic control all come
 * from these descriptions.
 */

export interface NumberField {
  type: 'number';
  min: number;
  max: number;
  default: number;
  /** How the number reads: `amount` -1..1 and `fraction` 0..1 are shown times 100. */
  unit: 'ev' | 'amount' | 'fraction' | 'hue' | 'plain';
}

export interface ChoiceField<V extends string = string> {
  type: 'choice';
  options: readonly V[];
  default: V;
}

export interface GroupField<F extends Fields = Fields> {
  type: 'group';
  fields: F;
  /** Shown only while a neighbouring choice has this value; the setting itself is always kept. */
  shownWhen?: { field: string; is: string };
  /** How the group is laid out by the generic panel. */
  layout: 'section' | 'families';
}

export type Field = NumberField | ChoiceField | GroupField;
export type Fields = { readonly [name: string]: Field };

export type ValueOf<F extends Field> = F extends NumberField
  ? number
  : F extends ChoiceField<infer V>
    ? V
    : F extends GroupField<infer G>
      ? SettingsOf<G>
      : never;
export type SettingsOf<F extends Fields> = { [K in keyof F]: ValueOf<F[K]> };

export const exposure = (min: number, max: number): NumberField => ({
  type: 'number',
  min,
  max,
  default: 0,
  unit: 'ev',
});
export const amount = (value = 0): NumberField => ({
  type: 'number',
  min: -1,
  max: 1,
  default: value,
  unit: 'amount',
});
export const fraction = (value = 0): NumberField => ({
  type: 'number',
  min: 0,
  max: 1,
  default: value,
  unit: 'fraction',
});
export const hue = (value = 0): NumberField => ({
  type: 'number',
  min: 0,
  max: 360,
  default: value,
  unit: 'hue',
});
export const choice = <const V extends string>(options: readonly V[], value: NoInfer<V>): ChoiceField<V> => ({
  type: 'choice',
  options,
  default: value,
});
export const group = <F extends Fields>(
  fields: F,
  options: Partial<Pick<GroupField, 'shownWhen' | 'layout'>> = {},
): GroupField<F> => ({ type: 'group', fields, layout: 'section', ...options });

/** The defaults of a set of fields. */
export function defaultsOf<F extends Fields>(fields: F): SettingsOf<F> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => [
      name,
      field.type === 'group' ? defaultsOf(field.fields) : field.default,
    ]),
  ) as SettingsOf<F>;
}

function schemaOfField(field: Field): z.ZodType {
  if (field.type === 'number') return z.number().min(field.min).max(field.max).default(field.default);
  if (field.type === 'choice') return z.enum([...field.options]).default(field.default);
  return schemaOf(field.fields);
}

/** The Zod schema of a set of fields: strict, every setting with its default. */
export function schemaOf<F extends Fields>(fields: F): z.ZodType<SettingsOf<F>> {
  const shape = Object.fromEntries(Object.entries(fields).map(([name, f]) => [name, schemaOfField(f)]));
  return z.strictObject(shape).prefault({}) as unknown as z.ZodType<SettingsOf<F>>;
}
