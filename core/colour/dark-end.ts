import type { Stop } from './gradient';
import { rgbToLab } from './lab';
import { parseHex } from './srgb';

/** What the dark end of a gradient does to a print whose tones it maps. */

/** A dark end lighter than this (L*) leaves a print without black. */
const WEAK_BLACK = 22;
/** A difference in L* that is seen. */
const SEEN = 2;

export const lightnessOfColour = (colour: string): number => rgbToLab(...parseHex(colour))[0];

/**
 * @param reversed the gradient runs the other way round
 * @returns the lightness (L*) of the darkest colour where that is no black, else null; and whether the dark end is lighter
 *   than what comes next
 */
export function darkEndOf(
  stops: readonly Stop[],
  reversed = false,
): { weakBlack: number | null; turnsRound: boolean } {
  const sorted = stops
    .map(s => ({ at: reversed ? 1 - s.at : s.at, lightness: lightnessOfColour(s.colour) }))
    .sort((a, b) => a.at - b.at);
  const darkest = Math.min(...sorted.map(s => s.lightness));
  const [end, next] = sorted;
  return {
    weakBlack: darkest > WEAK_BLACK ? Math.round(darkest) : null,
    // All the way round is a negative, and meant.
    turnsRound: end.lightness > next.lightness + SEEN && sorted.at(-1)!.lightness > next.lightness,
  };
}
