import { familyNames, hueSixths, membershipsAt, type Family } from '../colour/hues';
import { smoothstep } from '../colour/tones';
import { luminance, responded, responseShare } from './response';

export type Response = Record<Family, number>;

/** Chroma (largest less smallest channel) below which a colour has no hue that could be pulled. */
const LEAST_CHROMA = 0.05;

/** The families that a colour belongs to and how much, strongest first, summing to one; none for a grey. */
export function familiesOf([r, g, b]: readonly [number, number, number]): {
  family: Family;
  share: number;
}[] {
  const most = Math.max(r, g, b);
  const span = most - Math.min(r, g, b);
  if (span < LEAST_CHROMA) return [];
  const sixths = hueSixths(r, g, b, most, span);
  return membershipsAt(sixths)
    .map((share, i) => ({ family: familyNames[i], share }))
    .filter(({ share }) => share > 0.02)
    .sort((a, b) => b.share - a.share);
}

/** The response with the families of a colour moved by their shares, so that together they move it by `amount`. */
function moved(response: Response, families: ReturnType<typeof familiesOf>, amount: number): Response {
  const squares = families.reduce((sum, { share }) => sum + share * share, 0);
  const pulled = { ...response };
  for (const { family, share } of families) {
    // The least sum of squares does that with each family moving by its share.
    const at = response[family] + (amount * share) / squares;
    pulled[family] = Math.min(1, Math.max(-1, Math.round(at * 1000) / 1000));
  }
  return pulled;
}

/** Farther than this no family moves from one end to the other. */
const WHOLE = 4;

/**
 * A response pulled at a colour: the families that it belongs to move until its grey has changed by a share of its
 * value, or as far as the colour allows.
 * @param colour encoded RGB of the picture beneath the conversion, 0..1
 * @param by -1 to black, 1 to twice as light: a share of the grey that the colour has now
 * @returns the response within -1..1; the same for a grey
 */
export function pullResponse(
  response: Response,
  colour: readonly [number, number, number],
  by: number,
): Response {
  const families = familiesOf(colour);
  if (families.length === 0 || by === 0) return response;
  const grey = luminance(Float64Array.from(colour));
  const weight = responseShare(Math.max(...colour) - Math.min(...colour));
  const greyWith = (tried: Response) =>
    responded(grey, weight * families.reduce((sum, { family, share }) => sum + share * tried[family], 0));
  const wanted = greyWith(response) * (1 + by);
  let low = -WHOLE;
  let high = WHOLE;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (greyWith(moved(response, families, middle)) < wanted) low = middle;
    else high = middle;
  }
  return moved(response, families, by < 0 ? high : low);
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
