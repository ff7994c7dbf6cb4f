import { starterBox, type NamedPigment, type Pigment } from '../core/colour/pigments';

/** Names of pigments, by what they are: a wash is called by them. */

const keyOf = (pigment: Pigment) => JSON.stringify(pigment);
const names = new Map(starterBox.map(({ pigment, name }) => [keyOf(pigment), name]));

/** Takes in the names of pigments that are kept; the last name of a pigment counts. */
export function learnPigments(kept: readonly Pick<NamedPigment, 'pigment' | 'name'>[]): void {
  for (const { pigment, name } of kept) names.set(keyOf(pigment), name);
}

export const nameOfPigment = (pigment: Pigment): string | undefined => names.get(keyOf(pigment));
