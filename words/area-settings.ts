import type { Mask } from '../core/masks/mask';
import { MOST_FINE, MOST_FRINGE } from '../core/masks/schema';
import { kindOfPart, type MaskPart } from '../core/masks/parts';
import type { Field, NumberField } from '../core/settings/fields';
import type { Measure } from '../core/settings/handles';
import { areaOf, changeArea, changePart } from '../core/treatment/areas';
import type { Step, Treatment } from '../core/treatment/treatment';
import { wordWithin } from './words';
import { nameOfSetting } from './setting-name';
import { number, share, type Setting } from './setting';

/** The numbers and choices of an area, and of what it is made of. */

/** The numbers of an area, in the order of their controls. */
export const areaNumbers = [
  {
    key: 'feather',
    label: 'Feather',
    name: 'Area feather',
    field: { ...share, unit: 'length', max: 0.05, default: 0 },
  },
  {
    key: 'grow',
    label: 'Grow',
    name: 'Area grow',
    field: { ...share, unit: 'length', min: -0.02, max: 0.02, default: 0 },
  },
  { key: 'refine', label: 'To edges', name: 'Area to edges', field: { ...share, default: 0 } },
  {
    key: 'fine',
    label: 'Fine edge',
    name: 'Area fine edge',
    field: { ...share, unit: 'length', max: MOST_FINE, default: 0 },
  },
  {
    key: 'fringe',
    label: 'Fringe',
    name: 'Area fringe',
    field: { ...share, unit: 'length', max: MOST_FRINGE, default: 0 },
  },
] as const;

/** What the controls of a part of an area are called after: each another, where there are several. */
export const calledPart = ({ parts }: Pick<Mask, 'parts'>, index: number): string =>
  parts.length > 1 ? `Area part ${index + 1}` : 'Area';

/** What a number of where a part lies is called, and its control. */
export const nameOfMeasure = (called: string, { name }: Pick<Measure<unknown>, 'name'>): string =>
  `${called} ${name.toLowerCase()}`;

/** The settings of a part of an area. */
function partSettings(area: Mask, index: number, picture: Size | null): Setting[] {
  const part = area.parts[index];
  const called = calledPart(area, index);
  const changed = (treatment: Treatment, settings: object) =>
    changePart(treatment, area.id, index, { ...part, ...settings } as MaskPart);
  const { fields, measures } = kindOfPart(part);
  const ofFields = Object.entries(fields as Record<string, Field>).flatMap(([key, field]): Setting[] => {
    const name = `${called} ${nameOfSetting([key], part.kind).toLowerCase()}`;
    const of = { name, label: name, path: `area.${part.kind}.${key}` };
    const now = (part as Record<string, unknown>)[key];
    const apply = (treatment: Treatment, value: unknown) => changed(treatment, { [key]: value });
    if (field.type === 'number') return [number(field, { ...of, value: Number(now), apply })];
    if (field.type !== 'choice') return [];
    const written = (value: string) => wordWithin(key, value);
    return [{ ...of, type: 'choice', options: field.options, value: String(now), apply, written }];
  });
  const ofMeasures = (picture && measures ? measures(part, picture) : []).map((measure): Setting => {
    const { unit, min, max, value, set } = measure;
    const name = nameOfMeasure(called, measure);
    const path = `area.${part.kind}.${measure.name.toLowerCase()}`;
    const field: NumberField = { type: 'number', min, max, default: value, unit };
    return number(field, { name, label: name, path, value, apply: (of, v) => changed(of, set(v)) });
  });
  return [...ofMeasures, ...ofFields];
}

/** The size of a photograph, in pixels. */
export interface Size {
  width: number;
  height: number;
}

/**
 * The numbers and choices of the area that a step lies on, and of its parts.
 * @param picture where what is measured on it counts as well
 */
export function areaSettings(treatment: Treatment, step: Step, picture: Size | null): Setting[] {
  const area = areaOf(treatment, step.mask);
  if (!area) return [];
  return [
    ...areaNumbers.map(({ key, name, field }) =>
      number(field, {
        name,
        label: name,
        path: `area.${key}`,
        value: area[key],
        apply: (of, value) => changeArea(of, area.id, { [key]: value }),
      }),
    ),
    ...area.parts.flatMap((_, index) => partSettings(area, index, picture)),
  ];
}
