import { mostChroma } from '../../core/colour/gamut';
import { hueDirection } from '../../core/colour/hues';
import { oklabToRgb } from '../../core/colour/oklab';
import type { Pigment } from '../../core/colour/pigments';
import { toHex } from '../../core/colour/srgb';

/** The OKLab lightness at which a range of tones is shown in its painted tracks. */
export const lightnessOf: Record<string, number> = { shadows: 0.42, midtones: 0.66, highlights: 0.86 };

/** The colour that a hue and a saturation give at a lightness, as split toning makes it. */
export function toneColour(hue: number, saturation: number, L: number): string {
  const direction = hueDirection(hue);
  const chroma = saturation * mostChroma(L, (direction / (2 * Math.PI) + 1) % 1);
  const c = Float64Array.of(L, chroma * Math.cos(direction), chroma * Math.sin(direction));
  oklabToRgb(c);
  return toHex(c[0], c[1], c[2]);
}

const steps = (count: number, colour: (t: number) => string) =>
  `linear-gradient(90deg, ${Array.from({ length: count + 1 }, (_, i) => colour(i / count)).join(', ')})`;

/** A hue track painted with what each hue gives. */
export const huePaint = (L: number, saturation: number) =>
  steps(24, t => toneColour(t * 360, Math.max(0.35, saturation), L));

/** A saturation track from grey to the purest of a hue. */
export const saturationPaint = (hue: number, L: number) => steps(8, t => toneColour(hue, t, L));

/** What a pigment looks like: its colour, or its colours from the shadows to the lights. */
export const pigmentPaint = (pigment: Pigment): string =>
  pigment.kind === 'flat'
    ? pigment.colour
    : `linear-gradient(100deg, ${[...pigment.stops]
        .sort((a, b) => a.at - b.at)
        .map(s => `${s.colour} ${s.at * 100}%`)
        .join(',')})`;
