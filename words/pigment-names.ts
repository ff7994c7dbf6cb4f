import { starterBox, type NamedPigment, type Pigment } from '../core/colour/pigments';
import { parseHex } from '../core/colour/srgb';
import { atVividness, vividnessOf } from '../core/colour/vividness';

/** Names of pigments, by what they are: a wash is called by them, however vivid it is laid. */

const keyOf = (pigment: Pigment) => JSON.stringify(pigment);
const known = new Map(starterBox.map(({ pigment, name }) => [keyOf(pigment), { pigment, name }]));
/** What was found of pigments that are no known one. */
const found = new Map<string, string | undefined>();
const MOST_FOUND = 500;

/** Takes in the names of pigments that are kept; the last name of a pigment counts. */
export function learnPigments(kept: readonly Pick<NamedPigment, 'pigment' | 'name'>[]): void {
  for (const { pigment, name } of kept) known.set(keyOf(pigment), { pigment, name });
  found.clear();
}

/** Below this a pigment is a grey, which many could have become. */
const LEAST_VIVID = 0.05;
/** Codes of 255 that rounding may have moved a colour by. */
const NEAR = 3;

const coloursOf = (pigment: Pigment) =>
  pigment.kind === 'flat' ? [pigment.colour] : pigment.stops.map(s => s.colour);

function areAlike(one: Pigment, other: Pigment): boolean {
  const [a, b] = [coloursOf(one), coloursOf(other)];
  if (one.kind !== other.kind || a.length !== b.length) return false;
  return a.every((colour, i) => {
    const codes = parseHex(b[i]);
    return parseHex(colour).every((v, k) => Math.abs(v - codes[k]) * 255 <= NEAR);
  });
}

/** The known pigment that one is at another vividness. */
function paler(pigment: Pigment): string | undefined {
  const vivid = vividnessOf(pigment);
  if (vivid < LEAST_VIVID) return undefined;
  return [...known.values()].findLast(each => areAlike(atVividness(each.pigment, vivid), pigment))?.name;
}

/** What a pigment is called: the name of that very one, or of the one that it is at another vividness. */
export function nameOfPigment(pigment: Pigment): string | undefined {
  const key = keyOf(pigment);
  const exact = known.get(key);
  if (exact) return exact.name;
  if (!found.has(key)) {
    if (found.size >= MOST_FOUND) found.clear();
    found.set(key, paler(pigment));
  }
  return found.get(key);
}

/** Whether a known pigment is called so: an area of that name was named after it, and may have another one by now. */
export const isNameOfPigment = (name: string): boolean =>
  [...known.values()].some(each => each.name.toLowerCase() === name.toLowerCase());
