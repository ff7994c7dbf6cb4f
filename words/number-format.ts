/** How numbers are written, by language and by how they are shown. */

const formats = new Map<string, Intl.NumberFormat>();
/** The same as options: of the same way the same object, since another one would undo what is being typed. */
const options = new Map<string, Intl.NumberFormatOptions>();

export interface Shown {
  shownTimes: number;
  unit: string;
  decimals: number;
  centred: boolean;
  /** Digits of a fraction that are written though they are 0; all of them where it is left out. */
  leastDecimals?: number;
}

const keyOf = ({ unit, decimals, centred, leastDecimals }: Shown) =>
  `${unit} ${decimals} ${centred} ${leastDecimals}`;

export function optionsOf(shown: Shown): Intl.NumberFormatOptions {
  const { unit, decimals, centred, leastDecimals = decimals } = shown;
  const known = options.get(keyOf(shown));
  if (known) return known;
  const made: Intl.NumberFormatOptions = {
    maximumFractionDigits: decimals,
    minimumFractionDigits: leastDecimals,
    // A comma is one of a fraction, wherever it is read.
    useGrouping: false,
    signDisplay: centred ? 'exceptZero' : 'auto',
    ...(unit === '°' && { style: 'unit', unit: 'degree', unitDisplay: 'narrow' }),
    ...(unit === '%' && { style: 'unit', unit: 'percent' }),
  };
  options.set(keyOf(shown), made);
  return made;
}

export const inUnits = (value: number, { shownTimes, decimals }: Shown) =>
  Number((value * shownTimes).toFixed(decimals));

export function written(value: number, shown: Shown, language: string): string {
  const key = `${language} ${keyOf(shown)}`;
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new Intl.NumberFormat(language, optionsOf(shown))));
  return format.format(inUnits(value, shown));
}

/**
 * A number as a person types it: with a point or a comma, a sign of any kind, and a unit behind it.
 * Of several separators the last one parts the fraction, the others part thousands; where there are no fractions, three digits
 * behind each are thousands.
 * @param decimals that such a number has
 * @returns null where it is no number
 */
export function readNumber(text: string, decimals = 2): number | null {
  const found = /^\s*([-+\u2212\u2013]?)\s*([\d.,\s\u00a0\u202f]*)\s*(?:[a-z%°]{0,12})\s*$/iu.exec(text);
  if (!found) return null;
  const digits = found[2].replace(/[\s\u00a0\u202f]/gu, '');
  const isGrouped = decimals === 0 && /^\d{1,3}([.,]\d{3})+$/.test(digits);
  const last = isGrouped ? -1 : Math.max(digits.lastIndexOf('.'), digits.lastIndexOf(','));
  const whole = (last < 0 ? digits : digits.slice(0, last)).replace(/[.,]/g, '');
  const fraction = last < 0 ? '' : digits.slice(last + 1);
  if (whole + fraction === '') return null;
  const value = Number(`${whole || '0'}.${fraction || '0'}`);
  return found[1] && found[1] !== '+' ? -value : value;
}
