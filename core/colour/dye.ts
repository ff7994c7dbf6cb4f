import { luma } from './srgb';
import type { Triple } from './oklab';
import { toEncoded, toLinear } from './transfer';

/**
 * Light through a transparent dye: a product in linear light, so that it darkens as real dyes do and colours laid on one
 * another mix as glasses do. Paper white is kept: a dye holds to the silver's gelatine, and the share of it that the
 * print holds falls away in the last lights (1 less the sixth power of the luma beneath), without a step.
 */

/** The power of the luma by which the dye falls away towards white. */
const TOWARDS_WHITE = 6;
/** A dye lets at least so much light through (linear), so that none is opaque. */
const LEAST = 0.002;

/** What a dye lets through, as logarithms of linear light; 0 lets all through. */
export type Dye = Triple;

/** A dye that looks on white paper as an encoded colour does. */
export function dyeOf(colour: ArrayLike<number>, out: Dye): void {
  for (let k = 0; k < 3; k++) out[k] = Math.log(Math.min(1, Math.max(LEAST, toLinear(colour[k]))));
}

/**
 * A dye for a colour that goes with the tone beneath: of its hue and chroma, and of one density at all tones, that by
 * which the ramp's middle is darker than middle grey.
 * @param through what it lets through of its lightest channel, 0..1, linear
 */
export function dyeAtTone(colour: ArrayLike<number>, through: number, out: Dye): void {
  for (let k = 0; k < 3; k++) out[k] = Math.max(0, toLinear(colour[k]));
  const most = Math.max(out[0], out[1], out[2]);
  for (let k = 0; k < 3; k++) {
    out[k] = Math.log(Math.max(LEAST, most > 0 ? (out[k] * through) / most : through));
  }
}

/** An encoded colour seen through a dye. */
export function throughDye(beneath: ArrayLike<number>, dye: Dye, out: Triple): void {
  const tone = Math.min(1, Math.max(0, luma(beneath[0], beneath[1], beneath[2])));
  const held = 1 - tone ** TOWARDS_WHITE;
  for (let k = 0; k < 3; k++) out[k] = toEncoded(Math.max(0, toLinear(beneath[k])) * Math.exp(held * dye[k]));
}
