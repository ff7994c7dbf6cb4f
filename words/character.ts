import { stepKind } from '../core/steps';
import { stepsInWords } from './words';

const givesColour = (kind: string) => {
  const of = stepKind(kind);
  return of !== undefined && (of.coloursTones === true || of.stage === 'colour');
};

/** What gives a picture its character, shortly: the steps that colour it, or all where none does. */
export function characterInWords(kinds: readonly string[]): string {
  const colouring = kinds.filter(givesColour);
  return stepsInWords([...new Set(colouring.length ? colouring : kinds)]);
}
