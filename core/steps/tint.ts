import { rgbToOklab } from '../colour/oklab';
import { layPulls, pullOf } from '../colour/toning';
import { defineStep } from './define';
import { fraction, hue } from '../settings/fields';

const WHOLE = [1];

/**
 * One tint over all: at saturation 1 nearly as much chroma as sRGB holds at each lightness and hue. Black and white
 * take none, OKLab L is kept.
 */
export const tint = defineStep({
  kind: 'tint',
  stage: 'tone',
  face: 'ramp',
  givesColour: true,
  coloursTones: true,
  fields: { hue: hue(35), saturation: fraction(0.2) },
  point: s => {
    if (s.saturation === 0) return () => undefined;
    const pulls = [pullOf(s)];
    return c => {
      rgbToOklab(c);
      layPulls(c, pulls, WHOLE);
    };
  },
});
