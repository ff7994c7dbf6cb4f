import { turnsOf } from './elementary';
import { mostChroma } from './gamut';
import { hueDirection } from './hues';
import { oklabToRgb, type Triple } from './oklab';

/**
 * Colour laid into tones at their own lightness, in OKLab. A pull is a vector whose length 1 stands for all
 * the chroma that sRGB holds at a lightness, so that it closes to none at black and white.
 */

export function pullOf(range: { hue: number; saturation: number }): [number, number] {
  const direction = hueDirection(range.hue);
  return [range.saturation * Math.cos(direction), range.saturation * Math.sin(direction)];
}

/** Adds a pull to an OKLab colour and leaves encoded RGB; chroma gives way at the gamut's edge, L is kept. */
export function layPull(c: Triple, x: number, y: number): void {
  const L = c[0];
  const length = Math.sqrt(x * x + y * y);
  if (length > 0) {
    const scale = (Math.min(1, length) * mostChroma(L, turnsOf(x, y))) / length;
    c[1] += scale * x;
    c[2] += scale * y;
  }
  const chroma = Math.sqrt(c[1] * c[1] + c[2] * c[2]);
  const most = mostChroma(L, turnsOf(c[1], c[2]));
  if (chroma > most) {
    c[1] *= most / chroma;
    c[2] *= most / chroma;
  }
  oklabToRgb(c);
}
