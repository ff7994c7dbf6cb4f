import { bands, type Band, type PictureReading } from '../core/analysis/reading';
import type { Moves, Way } from '../core/analysis/moved';
import type { Place } from '../core/analysis/place';
import { listed } from './words';

/** What is read from a picture, in words: for a method's pages, and for whoever does not see it. */

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

const SHARES: readonly (readonly [below: number, words: string])[] = [
  [0.02, 'a trace'],
  [0.07, 'a twentieth'],
  [0.14, 'a tenth'],
  [0.22, 'a fifth'],
  [0.29, 'a quarter'],
  [0.41, 'a third'],
  [0.57, 'half'],
  [0.7, 'two thirds'],
  [0.86, 'most'],
  [Infinity, 'nearly all'],
];

/** `a third`. */
const shareAlone = (share: number): string => SHARES.find(([below]) => share < below)![1];

/** `a third of the picture`. */
export const shareInWords = (share: number): string => `${shareAlone(share)} of the picture`;

/** `in the upper left`, `on the left`, `in the lower half`, `in the middle`. */
export function placeInWords({ across, down }: Place): string {
  if (across === 'middle' && down === 'middle') return 'in the middle';
  if (across === null || across === 'middle') {
    return down === 'middle' || down === null ? 'in the middle' : `in the ${down} half`;
  }
  return down === null || down === 'middle' ? `on the ${across}` : `in the ${down} ${across}`;
}

const bandNames: Record<Band, string> = { darks: 'darks', middles: 'middle tones', lights: 'lights' };

/** `the lights (a third of the picture, mostly in the upper half)`; `the few lights that there are`. */
export function bandInWords(band: Band, { tones }: Pick<PictureReading, 'tones'>): string {
  const { share, place } = tones[band];
  if (share < 0.03) return `the few ${bandNames[band]} that there are`;
  return `the ${bandNames[band]} (${shareInWords(share)}${place ? `, mostly ${placeInWords(place)}` : ''})`;
}

/** `lights (half, mostly in the upper half), middle tones (a third) and darks (a fifth)`: what there is most of first. */
export function tonesInWords({ tones }: Pick<PictureReading, 'tones'>): string {
  return listed(
    bands
      .filter(band => tones[band].share >= 0.1)
      .toSorted((a, b) => tones[b].share - tones[a].share)
      .map(band => {
        const { share, place } = tones[band];
        const where = place ? `, mostly ${placeInWords(place)}` : '';
        return `${bandNames[band]} (${shareAlone(share)}${where})`;
      }),
  );
}

/** `the red in the lower left`; `the lights` of a picture in which nothing is noticed by its colour. */
export function thingInWords({ things: [thing] }: Pick<PictureReading, 'things'>): string {
  return thing ? `the ${thing.family}${thing.place ? ` ${placeInWords(thing.place)}` : ''}` : 'the lights';
}

/** A picture by its tones, in a sentence or two: `Middle tones (half) and lights (a third, …). Coloured: red in the lower left.` */
export function pictureInWords(reading: PictureReading): string {
  const coloured = reading.things
    .slice(0, 2)
    .map(({ family, place }) => `${family}${place ? ` ${placeInWords(place)}` : ''}`);
  return `${sentence(tonesInWords(reading))} ${coloured.length ? `Coloured: ${listed(coloured)}.` : ''}`.trim();
}

/** The ways of a band in words; that what was grey has a colour now goes without saying where the colour is told. */
function waysInWords(ways: readonly Way[]): string {
  const isTold = ways.includes('warmer') || ways.includes('cooler');
  return listed(ways.filter(way => way !== 'more coloured' || !isTold));
}

/** What a change did: `Lights and middle tones warmer; darks as they were.` */
export function movesInWords(moves: Moves): string {
  const alike = new Map<string, string[]>();
  for (const band of bands.toReversed()) {
    const ways = waysInWords(moves[band]);
    alike.set(ways, [...(alike.get(ways) ?? []), bandNames[band]]);
  }
  const still = alike.get('');
  if (still && alike.size === 1) return 'As it was, to the eye.';
  alike.delete('');
  const moved = [...alike].map(([ways, named]) => `${listed(named)} ${ways}`);
  return sentence([...moved, ...(still ? [`${listed(still)} as they were`] : [])].join('; '));
}
