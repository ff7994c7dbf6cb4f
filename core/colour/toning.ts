import { turnsOf } from './elementary';
import { held, mostChroma } from './gamut';
import { hueDirection } from './hues';
import { oklabToRgb, type Triple } from './oklab';

/** Colour laid into tones at their own lightness, in OKLab. */

/** A hue pulled to by a share of all the chroma that there is at a lightness, so that it closes to none at black and white. */
export interface Pull {
  /** Along the hue, as long as the share. */
  x: number;
  y: number;
  /** The hue's direction, 0..1. */
  turns: number;
}

export function pullOf(range: { hue: number; saturation: number }): Pull {
  const direction = hueDirection(range.hue);
  const [x, y] = [Math.cos(direction), Math.sin(direction)];
  return { x: range.saturation * x, y: range.saturation * y, turns: turnsOf(x, y) };
}

/**
 * Adds pulls to an OKLab colour, each by its weight, and leaves encoded RGB. L is kept; chroma gives way smoothly as it
 * comes near the most there is. Each pull has the chroma of its own hue, so that two that meet half way pass through grey
 * without a kink.
 */
export function layPulls(c: Triple, pulls: readonly Pull[], weights: ArrayLike<number>): void {
  const L = c[0];
  for (let i = 0; i < pulls.length; i++) {
    const { x, y, turns } = pulls[i];
    if (x === 0 && y === 0) continue;
    const scale = weights[i] * mostChroma(L, turns);
    c[1] += scale * x;
    c[2] += scale * y;
  }
  const chroma = Math.sqrt(c[1] * c[1] + c[2] * c[2]);
  if (chroma > 0) {
    const share = held(chroma, mostChroma(L, turnsOf(c[1], c[2])));
    c[1] *= share;
    c[2] *= share;
  }
  oklabToRgb(c);
}
