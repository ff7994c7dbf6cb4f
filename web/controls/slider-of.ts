import type { NumberField } from '../../core/settings/fields';
import { units } from '../../words/units';

/** How the slider of a number runs, and how it is written. */
export const sliderOf = ({ min, max, default: standard, unit, scale }: NumberField) => ({
  min,
  max,
  standard,
  ...units[unit],
  scale,
});
