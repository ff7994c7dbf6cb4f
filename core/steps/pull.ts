import { aroundTheCircle, familyNames, hueSixths, readAround, type Family } from '../colour/hues';
import { smoothstep } from '../colour/tones';

export type Response = Record<Family, number>;

/** Circles with one family at 1 and the rest at 0: how much a hue belongs to each. */
const memberships = familyNames.map((_, own) =>
  aroundTheCircle(familyNames.map((_, family) => (family === own ? 1 : 0))),
);

/** Chroma (largest less smallest channel) below which a colour has no hue that could be pulled. */
const LEAST_CHROMA = 0.03;

/** The families that a colour belongs to and how much, strongest first, summing to one; none for a grey. */
export function familiesOf([r, g, b]: readonly [number, number, number]): {
  family: Family;
  share: number;
}[] {
  const most = Math.max(r, g, b);
  const span = most - Math.min(r, g, b);
  if (span < LEAST_CHROMA) return [];
  const sixths = hueSixths(r, g, b, most, span);
  return familyNames
    .map((family, i) => ({ family, share: readAround(memberships[i], sixths) }))
    .filter(({ share }) => share > 0.02)
    .sort((a, b) => b.share - a.share);
}

/**
 * A response pulled at a colour: the families that the colour belongs to move so that together they move it
 * by `amount`. The least sum of squares does that with each family moving by its share.
 * @param colour encoded RGB of the picture beneath the conversion, 0..1
 * @param amount of response, -1..1; positive makes lighter
 * @returns the response within -1..1; the same for a grey
 */
export function pullResponse(
  response: Response,
  colour: readonly [number, number, number],
  amount: number,
): Response {
  const families = familiesOf(colour);
  const squares = families.reduce((sum, { share }) => sum + share * share, 0);
  const pulled = { ...response };
  for (const { family, share } of families) {
    const moved = response[family] + (amount * share) / squares;
    pulled[family] = Math.min(1, Math.max(-1, Math.round(moved * 1000) / 1000));
  }
  return pulled;
}

/** The mean of encoded colours about a place, leaving out what differs from the middle one: not the neighbour's edge. */
export function colourAbout(codes: Uint8ClampedArray, channels: number): [number, number, number] {
  const count = codes.length / channels;
  const middle = Math.floor(count / 2) * channels;
  const sum = [0, 0, 0];
  let total = 0;
  for (let i = 0; i < codes.length; i += channels) {
    const apart = Math.max(...[0, 1, 2].map(k => Math.abs(codes[i + k] - codes[middle + k])));
    const weight = 1 - smoothstep((apart - 12) / 36);
    for (let k = 0; k < 3; k++) sum[k] += codes[i + k] * weight;
    total += weight;
  }
  return sum.map(v => v / total / 255) as [number, number, number];
}
