import type { NumberField } from '../../core/settings/fields';
import { units } from '../../words/units';

/** The values that hang on a test strip. */

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
