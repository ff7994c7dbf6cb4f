import type { CurvePoints, Field, Fields } from '../core/settings/fields';
import type { Pigment } from '../core/colour/pigments';
import type { Stop } from '../core/colour/gradient';
import { kindOfPart } from '../core/masks/parts';
import { isWhole } from '../core/masks/reach';
import { stepKind } from '../core/steps';
import { areaOf } from '../core/treatment/areas';
import type { Step, Treatment } from '../core/treatment/treatment';
import { areaNumbers } from './area-settings';
import { nameOfListed } from './step-settings';
import { nameOfSetting } from './setting-name';
import { share } from './setting';
import { writtenAs } from './units';
import { nameOfStep } from './step-names';
import { wordFor, wordWithin } from './words';

/** A step told so that it can be made again by hand: where it lies, and all that is not at rest. */

export interface Told {
  /** As its control is called. */
  name: string;
  value: string;
  /** Colours that it names, `#rrggbb`, in order. */
  colours?: readonly string[];
  /** Points of a curve, 0..1. */
  curve?: CurvePoints;
}

export interface StepTold {
  name: string;
  /** Where in the order of work it stands. */
  stage: string;
  /** The area that it lies on, and what that is made of; null for the whole picture. */
  area: string | null;
  told: readonly Told[];
}

type Values = Record<string, unknown>;

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const percent = (v: number) => `${Number((v * 100).toFixed(1))}`;
const amount = (v: number) => writtenAs(share, v);

function stopsTold(stops: readonly Stop[]): Pick<Told, 'value' | 'colours'> {
  const ordered = stops.toSorted((a, b) => a.at - b.at);
  return {
    value: ordered.map(({ at, colour }) => `${percent(at)} ${colour}`).join(', '),
    colours: ordered.map(s => s.colour),
  };
}

const pigmentTold = (pigment: Pigment): Pick<Told, 'value' | 'colours'> =>
  pigment.kind === 'flat' ? { value: pigment.colour, colours: [pigment.colour] } : stopsTold(pigment.stops);

/** One setting, where it has a value of its own that words can tell; null where it has none. */
function valueTold(
  field: Field,
  key: string,
  value: unknown,
  { tables }: Treatment,
): Omit<Told, 'name'> | null {
  switch (field.type) {
    case 'number':
      return { value: writtenAs(field, Number(value)) };
    case 'choice':
      return { value: wordWithin(key, String(value)) };
    case 'flag':
      return { value: value ? 'on' : 'off' };
    case 'colour':
      return typeof value === 'string' ? { value, colours: [value] } : { value: 'none' };
    case 'curve': {
      const points = value as CurvePoints;
      return { value: points.map(([x, y]) => `${percent(x)} to ${percent(y)}`).join(', '), curve: points };
    }
    case 'stops':
      return stopsTold(value as Stop[]);
    case 'pigment':
      return pigmentTold(value as Pigment);
    case 'reference':
      return typeof value === 'string' && Object.hasOwn(tables, value) ? { value } : { value: 'none' };
    case 'position': {
      const [x, y] = value as [number, number];
      return { value: `${percent(x)} across, ${percent(y)} down` };
    }
    case 'radii':
      return { value: (value as number[]).map(percent).join(' by ') };
    case 'range':
      return { value: (value as number[]).map(percent).join(', ') };
    default:
      return null;
  }
}

function fieldsTold(treatment: Treatment, fields: Fields, values: Values, path: readonly string[]): Told[] {
  return Object.entries(fields).flatMap(([key, field]): Told[] => {
    const at = [...path, key];
    const value = values[key];
    if (field.type === 'group') {
      const { shownWhen } = field;
      if (shownWhen && values[shownWhen.field] !== shownWhen.is) return [];
      return fieldsTold(treatment, field.fields, value as Values, at);
    }
    if (field.type === 'list') {
      return (value as Values[]).flatMap((item, place) =>
        Object.entries(field.fields).flatMap(([name, of]): Told[] => {
          const told = valueTold(of, name, item[name], treatment);
          return told ? [{ name: nameOfListed(place, name), ...told }] : [];
        }),
      );
    }
    // What is at rest is left out, but for colours: they are what it is.
    const isRest = 'default' in field && same(value, field.default);
    if (isRest && field.type !== 'pigment' && field.type !== 'stops') return [];
    const told = valueTold(field, key, value, treatment);
    return told ? [{ name: nameOfSetting(at), ...told }] : [];
  });
}

/** The area of a step: its name, what it is made of, what is done to it as a whole. */
function areaTold(treatment: Treatment, step: Step): string | null {
  const area = areaOf(treatment, step.mask);
  if (!area) return null;
  const kinds = [...new Set(area.parts.map(part => wordFor(kindOfPart(part).kind).toLowerCase()))];
  const shaped = areaNumbers.flatMap(({ key, label, field }) =>
    area[key] === 0 ? [] : [`${label.toLowerCase()} ${writtenAs(field, area[key])}`],
  );
  const made = [...(area.invert ? ['inverted'] : []), ...kinds, ...shaped].join(', ');
  return made ? `${area.name} (${made})` : area.name;
}

const reachTold = (range: readonly number[]) => range.map(percent).join(', ');

/** A step in words. */
export function tellStep(treatment: Treatment, step: Step): StepTold {
  const kind = stepKind(step.kind);
  const group = treatment.groups.find(g => g.id === step.group);
  const { own, beneath } = step.reach;
  const about: Told[] = [
    ...(step.strength < 1 ? [{ name: 'Strength', value: amount(step.strength) }] : []),
    ...(group && group.strength < 1
      ? [{ name: `Strength of ${group.name}`, value: amount(group.strength) }]
      : []),
    ...(step.mix === (kind?.mix ?? 'normal') ? [] : [{ name: 'Mix', value: wordFor(step.mix) }]),
    ...(isWhole(own) ? [] : [{ name: 'Its own tones', value: reachTold(own) }]),
    ...(isWhole(beneath) ? [] : [{ name: 'Tones beneath', value: reachTold(beneath) }]),
  ];
  return {
    name: nameOfStep(step),
    stage: wordFor(step.stage),
    area: areaTold(treatment, step),
    told: [...(kind ? fieldsTold(treatment, kind.fields, { ...step.settings }, []) : []), ...about],
  };
}
