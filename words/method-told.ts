import { bands, type Band, type PictureReading } from '../core/analysis/reading';
import { holds, valueFor, type Facts } from '../core/methods/facts';
import type { Page, Told } from '../core/methods/schema';
import { bandInWords, shareInWords, thingInWords, tonesInWords } from './picture-told';

/**
 * The sentences of a method's page, for a picture. In braces stands what is read from it: `{lights}`, `{thing}`, `{black}`; with a capital
 * letter where a sentence begins with it. `{set.baths.0.time}` is a number that the page sets, in hundredths.
 */

const isBand = (name: string): name is Band => bands.some(band => band === name);

/** A number that a page sets, by its path. */
function setBy({ deed }: Page, path: readonly string[], facts: Facts): string {
  const of: unknown =
    path[0] === 'strength' && deed.does === 'put'
      ? { strength: deed.strength }
      : deed.does === 'bath'
        ? deed.bath
        : 'settings' in deed
          ? deed.settings
          : {};
  // Only where a path has reached a value is that one made for the picture: it may be taken from a fact.
  let at: unknown = of;
  for (const name of path) at = (at as Record<string, unknown> | undefined)?.[name];
  const value = valueFor(at, facts);
  if (typeof value !== 'number') throw new RangeError(`a page sets no number ${path.join('.')}`);
  return String(Math.round(value * 100));
}

function wordsFor(name: string, page: Page, reading: PictureReading, facts: Facts): string {
  const [first, ...path] = name.split('.');
  if (isBand(name)) return bandInWords(name, reading);
  if (name === 'tones') return tonesInWords(reading);
  if (name === 'black') return reading.black < 0.005 ? 'none of the picture' : shareInWords(reading.black);
  if (name === 'thing') return thingInWords(reading);
  if (first === 'set') return setBy(page, path, facts);
  if (first === 'value') return String(Math.round(Number(facts.values[path.join('.')]) * 100));
  throw new RangeError(`there are no words for {${name}}`);
}

/**
 * What is said on a page.
 * Throws a RangeError where it names what there is no word for.
 */
export function toldOf(told: Told, page: Page, reading: PictureReading, facts: Facts): string {
  return told
    .filter(({ when }) => when.every(condition => holds(condition, facts)))
    .map(({ text }) =>
      text.replace(/\{([^}]+)\}/g, (_, name: string) => {
        const words = wordsFor(name.charAt(0).toLowerCase() + name.slice(1), page, reading, facts);
        return /^[A-Z]/.test(name) ? words.charAt(0).toUpperCase() + words.slice(1) : words;
      }),
    )
    .join(' ');
}
