import { gradientOf } from '../colour/gradient';
import { rgbToOklab } from '../colour/oklab';
import type { NamedPigment, Pigment } from '../colour/pigments';
import { parseHex } from '../colour/srgb';
import { pigmentKey, type UsedPigment } from '../treatment/palette';
import type { AreaTones } from './area-tones';

/**
 * Pigments that suit an area: by what the photographer named it, by the tones that it has, by the colour that the photograph itself
 * shows there, and by what the series lays on things of the same name.
 */

/** What things are made of, by words that they are named with. */
const matters = {
  skin: 'skin face faces hand hands arm arms neck cheek cheeks leg legs child woman man girl boy portrait nose ear',
  lips: 'lips lip mouth',
  hair: 'hair beard brow brows eyebrow eyebrows moustache fur',
  foliage:
    'foliage leaf leaves tree trees grass reed reeds bush plant plants moss hedge garden fern meadow field',
  sky: 'sky cloud clouds dusk dawn air evening',
  water: 'water sea river lake wave waves pond creek tide harbour',
  wood: 'wood plank planks board boards door boat hull oar oars table chair bench fence shed floor seat shelf basket post',
  cloth:
    'cloth linen shawl dress curtain wool shirt apron sail blanket coat scarf skirt hat towel yarn ribbon',
  metal: 'metal iron brass stove pipe lantern kettle tin hinge hinges steel copper chain lamp anchor',
  stone: 'stone stones wall walls rock rocks plaster brick bricks pebble pebbles street sand',
  fruit: 'fruit quince quinces pear apple apples lemon',
} as const;
export type Matter = keyof typeof matters;

const known = new Map(
  Object.entries(matters).flatMap(([matter, words]) =>
    words.split(' ').map(word => [word, matter as Matter] as const),
  ),
);

/** What something is made of, by its name; null where that does not tell. Of several words the last counts. */
export function matterOf(name: string): Matter | null {
  const words = name.toLowerCase().match(/\p{L}+/gu) ?? [];
  return words.map(word => known.get(word)).findLast(matter => matter !== undefined) ?? null;
}

/** OKLab of a pigment at a tone. */
function colourAt(pigment: Pigment, tone: number): Float64Array {
  const c = new Float64Array(3);
  if (pigment.kind === 'flat') c.set(parseHex(pigment.colour));
  else gradientOf(pigment.stops, { interpolation: 'oklab' })(tone, c);
  rgbToOklab(c);
  return c;
}

/** How far a pigment's own lightness may lie from that of the tones that it is laid on, in OKLab. */
const LIGHTNESS = 0.3;

/** How well a pigment goes with tones, 0..1: laid on them, it is about as light as they are. */
function fitsTones(pigment: Pigment, tones: AreaTones['tones']): number {
  const each = tones.map(tone => {
    const grey = Float64Array.of(tone, tone, tone);
    rgbToOklab(grey);
    return Math.max(0, 1 - Math.abs(colourAt(pigment, tone)[0] - grey[0]) / LIGHTNESS);
  });
  return each.reduce((sum, v) => sum + v, 0) / each.length;
}

/** Colours that lie so far apart in OKLab's a and b have nothing in common. */
const APART = 0.1;

/** How well a pigment goes with a photograph's own colour, -1..1. */
function fitsColour(pigment: Pigment, tone: number, [a, b]: NonNullable<AreaTones['colour']>): number {
  const [, pa, pb] = colourAt(pigment, tone);
  return Math.max(-1, 1 - Math.hypot(a - pa, b - pb) / APART);
}

/** How much each reason counts. */
const NAMED = 3;
/** An area that is only called after a pigment that was laid on it was not named by anybody: a hint. */
const HINTED = 1;
/** More than all others together: one thing keeps its colour through a series. */
const SAME_THING = 12;
const IN_SERIES = 0.5;
const TONES = 2;
const COLOUR = 2.5;

const MOST = 6;

/**
 * Six pigments for an area, the best first; fewer where the box has fewer.
 * @param box the pigments at hand
 * @param used what the series uses, under what names
 * @param names of the area, and of what is laid on it
 * @param seen what the area holds; null where it covers nothing yet
 */
export function suggestPigments(
  box: readonly NamedPigment[],
  used: readonly (UsedPigment & { name: string })[],
  names: readonly string[],
  seen: AreaTones | null,
): NamedPigment[] {
  const ofBox = new Set(box.map(({ name }) => name.toLowerCase()));
  const isGiven = (name: string) => !ofBox.has(name.toLowerCase().replace(/ \d+$/, ''));
  // What is only called after a pigment is no thing.
  const called = new Set(names.filter(isGiven).map(name => name.trim().toLowerCase()));
  called.delete('');
  const matterIn = (all: readonly string[]) => all.map(matterOf).find(matter => matter !== null) ?? null;
  const given = matterIn(names.filter(isGiven));
  const wanted = given ?? matterIn(names);
  const all = new Map(
    box.map(each => [pigmentKey(each), { ...each, areas: [] as string[], photographs: 0 }]),
  );
  for (const each of used) {
    const key = pigmentKey(each);
    all.set(key, { ...each, name: all.get(key)?.name ?? each.name });
  }
  const scored = [...all.values()].map(({ areas, photographs, name, pigment, depth }) => {
    let score = photographs ? IN_SERIES : 0;
    if (areas.some(area => called.has(area.trim().toLowerCase()))) score += SAME_THING;
    const own = matterOf(name);
    if (wanted && (own === wanted || areas.some(area => matterOf(area) === wanted)))
      score += given ? NAMED : HINTED;
    else if (own === 'skin' || own === 'lips' || own === 'hair') score -= NAMED / 2;
    if (seen) score += TONES * fitsTones(pigment, seen.tones);
    if (seen?.colour) score += COLOUR * fitsColour(pigment, seen.tones[1], seen.colour);
    return { score, named: { name, pigment, depth } };
  });
  scored.sort((p, q) => q.score - p.score);
  return scored.slice(0, MOST).map(({ named }) => named);
}
