import { aroundTheCircle, hueSixths, readAround } from '../colour/hues';
import type { Triple } from '../colour/oklab';
import { LUMINANCE } from '../colour/srgb';
import { toEncoded, toLinear } from '../colour/transfer';

/** How the response to hue families answers to a colour: shared by the conversion and what is found for it. */

/** What a pure colour of a family loses of its grey at -1, as a share, and covers of the way to white at 1. */
const DARKENS = 0.765;
const LIGHTENS = 0.6;
/** Chroma (largest less smallest encoded channel) at which a colour answers about half as much as a pure one. */
const HALF_CHROMA = 0.19;
/** How much of the way from rest to an end the slopes of darkening and of lightening take to part. */
const PARTING = 0.3;

/** How much a colour answers to its family, 0..1: chroma (largest less smallest channel) with a soft toe. */
export const responseShare = (span: number): number =>
  ((1 + HALF_CHROMA * HALF_CHROMA) * span * span) / (span * span + HALF_CHROMA * HALF_CHROMA);

/**
 * A grey moved by a response. It goes in a straight line over most of the way, in encoded values, so that no hue stands
 * on a steeper slope than another; about rest both directions share one slope (the harmonic mean of theirs), so that
 * greys stay C1 where a family that darkens meets one that lightens.
 * @param grey encoded, 0..1; what lies beyond stays as it is
 * @param pull -1..1: what the families are set to, weighted by `responseShare`
 */
export function responded(grey: number, pull: number): number {
  if (pull === 0 || !(grey > 0) || grey >= 1) return grey;
  const darkens = DARKENS * grey;
  const lightens = LIGHTENS * (1 - grey);
  const atRest = (2 * darkens * lightens) / (darkens + lightens);
  const whole = pull < 0 ? darkens : lightens;
  const slope = (whole - (atRest * PARTING) / 2) / (1 - PARTING / 2);
  const way = Math.min(1, Math.abs(pull));
  const moved =
    way < PARTING
      ? atRest * way + ((slope - atRest) * way * way) / (2 * PARTING)
      : (atRest * PARTING) / 2 + slope * (way - PARTING / 2);
  return pull < 0 ? grey - moved : grey + moved;
}

/** Relative luminance, encoded: the grey of equal Y. */
export function luminance(c: Triple): number {
  return toEncoded(
    LUMINANCE[0] * toLinear(c[0]) + LUMINANCE[1] * toLinear(c[1]) + LUMINANCE[2] * toLinear(c[2]),
  );
}

/**
 * Greys moved by hue family: the families' values around the circle, weighted by chroma with a soft toe, so that neutrals
 * stay. Hue is that of HSL: its kinks lie on the planes where two channels are equal, which a tetrahedral table
 * reproduces exactly.
 * @param values -1..1 for each family, in the order of `familyNames`
 */
export function response(values: readonly number[]): (c: Triple) => number {
  if (values.every(v => v === 0)) return luminance;
  const pull = aroundTheCircle(values);
  return c => {
    const r = c[0];
    const g = c[1];
    const b = c[2];
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    const weight = responseShare(Math.min(1, span));
    return responded(luminance(c), readAround(pull, hueSixths(r, g, b, most, span)) * weight);
  };
}
