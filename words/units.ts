import type { NumberField } from '../core/settings/fields';
import { written } from './number-format';

/** How each unit is shown: times what, with what after it, in what steps. */
export const units: Record<
  NumberField['unit'],
  { shownTimes: number; unit: string; decimals: number; step: number }
> = {
  ev: { shownTimes: 1, unit: '', decimals: 2, step: 0.05 },
  amount: { shownTimes: 100, unit: '', decimals: 0, step: 0.01 },
  fraction: { shownTimes: 100, unit: '', decimals: 0, step: 0.01 },
  hue: { shownTimes: 1, unit: '°', decimals: 0, step: 1 },
  turn: { shownTimes: 1, unit: '°', decimals: 0, step: 1 },
  plain: { shownTimes: 1, unit: '', decimals: 2, step: 0.01 },
  length: { shownTimes: 100, unit: '%', decimals: 2, step: 0.0001 },
  whole: { shownTimes: 1, unit: '', decimals: 0, step: 1 },
};

/** A number of a setting as its control writes it. */
export const writtenAs = ({ unit, min, max }: NumberField, value: number, language = 'en-GB'): string =>
  `${written(value, { ...units[unit], centred: min < 0 && max > 0 }, language)}${unit === 'ev' ? ' EV' : ''}`;

/** How many pixels of the photograph a length is (a fraction of its long edge). */
export const inPixels =
  (longEdge: number) =>
  (length: number): string => {
    const pixels = length * longEdge;
    return `${Math.abs(pixels) < 10 ? Number(pixels.toFixed(1)) : Math.round(pixels)} px`;
  };
