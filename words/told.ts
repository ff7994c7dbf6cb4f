import { FAMILIES } from '../core/colour/hues';
import type { Kind } from '../core/steps';
import told from './told.json' with { type: 'json' };
import { wordFor, wordWithin } from './words';

/**
 * What steps, controls and choices do, in a sentence each that a printer would say. All of them stand in told.json: whoever translates
 * takes that file. A key is the kind and the path of a setting; a star stands for each of its group.
 */

const steps: Record<string, string> = told.steps;
const controls: Record<string, string> = told.controls;
const options: Record<string, string> = told.options;

/** What a step of a kind is for; the kind's name where nobody has said it yet. */
export const aboutStep = (kind: Kind): string => steps[kind] ?? `${wordFor(kind)}.`;

/** What laying on, an area and a reach have of any step. */
const COMMON = /^(strength|whole|group|mix|area|reach)(\.|$)/;

/** The keys of a sentence, the closest first. */
function keysFor(kind: Kind, path: string): string[] {
  const parts = path.split('.');
  const group = parts.slice(0, -1).join('.');
  const last = parts[parts.length - 1];
  if (COMMON.test(path)) return [path, `${group}.*`];
  // Of what stands more than once, in each of several ranges, the last name tells.
  return [`${kind}.${path}`, `${kind}.${group}.*`, `${kind}.${last}`];
}

/** What a setting is of: `the shadows`, `red`, `red things`. */
function ofWhat(path: string): string {
  const parts = path.split('.');
  const own = parts[parts.length - 1];
  // A setting that is called after a hue is of that hue; others are of the range that they stand in.
  const of = own in FAMILIES ? own : (parts.at(-2) ?? own);
  const word = wordWithin(parts.length > 2 ? parts[0] : '', of).toLowerCase();
  if (!(of in FAMILIES)) return `the ${word}`;
  return parts[0] === 'hues' ? `${word} things` : word;
}

/** Under which key a control is told of; several may share one. Null where nobody has said it yet. */
export const keyOfControl = (kind: Kind, path: string): string | null =>
  keysFor(kind, path).find(key => key in controls) ?? null;

/** What a control does; null where nobody has said it yet. */
export function aboutControl(kind: Kind, path: string): string | null {
  const key = keyOfControl(kind, path);
  return key === null ? null : controls[key].replaceAll('{of}', ofWhat(path));
}

/** What a value of a choice does; null where nobody has said it yet. */
export function aboutOption(kind: Kind, path: string, value: string): string | null {
  return options[`${COMMON.test(path) ? '' : `${kind}.`}${path}.${value}`] ?? null;
}

/** The words of the trade that the screens use, with a sentence each, in the order of the alphabet. */
export const tradeWords: readonly (readonly [word: string, sentence: string])[] = Object.entries(
  told.words as Record<string, string>,
).toSorted(([a], [b]) => a.localeCompare(b, 'en'));

/** What a word of the trade means; null where it is none. */
export const aboutWord = (word: string): string | null =>
  (told.words as Record<string, string>)[word] ?? null;
