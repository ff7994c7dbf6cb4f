import type { Pigment } from './pigments';
import { mostChroma } from './gamut';
import { oklabToRgb, rgbToOklab } from './oklab';
import { parseHex, toHex } from './srgb';

/** How vivid a pigment is: from a transparent old tint to the purest colour that a screen has. */

/** Shares of the possible chroma below this have no hue to speak of. */
const NO_HUE = 0.01;

/** Less chroma than this, in OKLCh, is the rounding of a grey to 8 bits. */
const GREY = 0.004;

/** The colour with another share (0..1) of the most chroma that sRGB holds at its lightness and hue. */
function withShare(colour: string, share: (own: number) => number): string {
  const c = Float64Array.from(parseHex(colour));
  rgbToOklab(c);
  const chroma = Math.hypot(c[1], c[2]);
  const most = mostChroma(c[0], (Math.atan2(c[2], c[1]) / (2 * Math.PI) + 1) % 1);
  if (chroma < GREY || most < GREY) return colour;
  const factor = (share(Math.min(1, chroma / most)) * most) / chroma;
  c[1] *= factor;
  c[2] *= factor;
  oklabToRgb(c);
  return toHex(c[0], c[1], c[2]);
}

function shareOf(colour: string): number {
  let share = 0;
  withShare(colour, own => (share = own));
  return share;
}

const coloursOf = (pigment: Pigment): string[] =>
  pigment.kind === 'flat' ? [pigment.colour] : pigment.stops.map(s => s.colour);

/**
 * How vivid a pigment is, 0..1: the most of its colours' chroma, as shares of what sRGB holds in OKLCh at their lightness
 * and hue.
 */
export const vividnessOf = (pigment: Pigment): number => Math.max(...coloursOf(pigment).map(shareOf));

/**
 * The pigment at another vividness, its lightness and hues kept; a ramp's colours keep their proportions. A pigment
 * without hue stays as it is.
 */
export function atVividness(pigment: Pigment, vividness: number): Pigment {
  const now = vividnessOf(pigment);
  if (now < NO_HUE) return pigment;
  const changed = (colour: string) => withShare(colour, own => Math.min(1, (own * vividness) / now));
  return pigment.kind === 'flat'
    ? { ...pigment, colour: changed(pigment.colour) }
    : { ...pigment, stops: pigment.stops.map(s => ({ ...s, colour: changed(s.colour) })) };
}
