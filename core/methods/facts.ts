import { bands, COLOURED, readPicture, type Pixels, type PictureReading } from '../analysis/reading';
import { oklabToRgb, rgbToOklab } from '../colour/oklab';
import { parseHex, toHex } from '../colour/srgb';
import { autoLight, type AutoLight } from '../steps/automatic/light';
import { autoResponse } from '../steps/automatic/response';
import type { Geometry } from '../frame/geometry';
import type { Family } from '../colour/hues';
import type { Condition } from './schema';

/** What a method may take from a picture, by name. */

/** What the automatic settings come to on the picture as it stands. */
export interface Automatics {
  light: AutoLight;
  response: Record<Family, number>;
}

export interface Facts {
  values: Record<string, number | string>;
  automatic: Automatics;
  grey: boolean;
}

/** How near to a thing's own vividness what belongs to its area is. */
const NEAREST = 0.75;

/** What stands for a thing where the photograph has no colour: a faded earth. */
const EARTH = { hue: 32, colour: '#b08a5e', vivid: 0.3 };
/** OKLab lightness and chroma of a pigment's accent, against the pigment's own. */
const DEEPER = { light: 0.78, chroma: 1.15 };

/** A colour made darker and a little stronger: the accent of a pigment. */
function deeper(colour: string): string {
  const c = Float64Array.from(parseHex(colour));
  rgbToOklab(c);
  c[0] *= DEEPER.light;
  c[1] *= DEEPER.chroma;
  c[2] *= DEEPER.chroma;
  oklabToRgb(c);
  const [r, g, b] = c.map(v => Math.min(1, Math.max(0, v)));
  return toHex(r, g, b);
}

/** The facts of a reading, by the names that methods have for them. */
export function factsOf(reading: PictureReading, automatic: Automatics): Facts {
  const { tones, things, contrast, black, white, low, middle, high, grey } = reading;
  const [thing = EARTH] = things;
  return {
    grey,
    automatic,
    values: {
      ...Object.fromEntries(bands.map(band => [band, tones[band].share])),
      black,
      white,
      low,
      middle,
      high,
      ...contrast,
      things: things.length,
      'thing.hue': thing.hue,
      'thing.colour': thing.colour,
      'thing.deeper': deeper(thing.colour),
      'thing.vivid': thing.vivid,
      'thing.near': Math.max(COLOURED, NEAREST * thing.vivid),
    },
  };
}

/** What there is to be read from a picture, and what methods may take from it; parameters as of `readPicture`. */
export function readFacts(
  seen: Pixels,
  bare: Pixels,
  geometry?: Geometry,
): { reading: PictureReading; facts: Facts } {
  const reading = readPicture(seen, bare, geometry);
  const { response } = autoResponse(seen.codes);
  return { reading, facts: factsOf(reading, { light: autoLight(seen.codes), response }) };
}

const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

function factOf({ values }: Facts, name: string): number | string {
  if (!(name in values)) throw new RangeError(`there is nothing to read that is called ${name}`);
  return values[name];
}

/** A number along a line between two points, at its ends beyond them, to two places. */
function along(at: number, [from, to]: readonly number[], [low, high]: readonly number[]): number {
  const share = Math.min(1, Math.max(0, (at - from) / (to - from)));
  return Math.round((low + share * (high - low)) * 100) / 100;
}

/**
 * What values of a method are for a picture: each that is taken from a fact as it comes to, all others as they are.
 * Throws a RangeError where a fact is named that there is not.
 */
export function valueFor(value: unknown, facts: Facts): unknown {
  if (Array.isArray(value)) return value.map(each => valueFor(each, facts));
  if (!isObject(value)) return value;
  if (value.automatic === 'light' || value.automatic === 'response') {
    return { ...facts.automatic[value.automatic] };
  }
  if (typeof value.read === 'string') {
    const fact = factOf(facts, value.read);
    if (!Array.isArray(value.from) || !Array.isArray(value.to)) return fact;
    return along(Number(fact), value.from as number[], value.to as number[]);
  }
  return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, valueFor(each, facts)]));
}

export function holds(condition: Condition, facts: Facts): boolean {
  if ('grey' in condition) return facts.grey === condition.grey;
  const fact = Number(factOf(facts, condition.read));
  return fact > (condition.above ?? -Infinity) && fact < (condition.below ?? Infinity);
}
