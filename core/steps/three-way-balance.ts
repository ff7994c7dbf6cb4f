import { chromaThatFits } from '../colour/gamut';
import { hueDirection, pureHue } from '../colour/hues';
import { oklabToRgb, rgbToOklab } from '../colour/oklab';
import { luma } from '../colour/srgb';
import { darkShare, lightShare } from '../colour/tones';
import { defineStep } from './define';
import { toneZone } from './zones';
import { amount, flag, fraction, group, hue } from '../settings/fields';

const range = () => group({ hue: hue(), amount: fraction(), lightness: amount() });

/** OKLab chroma that amount 1 adds. */
const CHROMA = 0.16;
/** Encoded light that amount 1 moves between the channels where lightness is not kept. */
const LIGHT = 0.35;
/** OKLab lightness that lightness 1 adds at full membership; small enough that the scale never folds. */
const LIFT = 0.13;

/**
 * Colour balance in shadows, midtones and highlights, whose shares sum to one. With lightness kept, colour
 * is added in OKLab and gives way in chroma at the gamut's edge; without, light is moved between the
 * channels. A range's own lightness moves OKLab L.
 */
export const threeWayBalance = defineStep({
  kind: 'three-way-balance',
  stage: 'ground',
  face: 'ramp',
  fields: { shadows: range(), midtones: range(), highlights: range(), keepLightness: flag(true) },
  whileHeld: (_settings, [range]) => {
    const zone = toneZone(range);
    return zone && { zone };
  },
  point: s => {
    const ranges = [s.shadows, s.midtones, s.highlights];
    if (ranges.every(r => r.amount === 0 && r.lightness === 0)) return () => undefined;
    const pulls = ranges.map(r => {
      const direction = hueDirection(r.hue);
      const [red, green, blue] = pureHue(r.hue);
      const mean = (red + green + blue) / 3;
      return {
        a: r.amount * CHROMA * Math.cos(direction),
        b: r.amount * CHROMA * Math.sin(direction),
        rgb: [red - mean, green - mean, blue - mean].map(v => v * r.amount * LIGHT),
        lift: r.lightness * LIFT,
      };
    });
    return c => {
      const tone = luma(c[0], c[1], c[2]);
      const dark = darkShare(tone);
      const light = lightShare(tone);
      const shares = [dark, 1 - dark - light, light];
      if (!s.keepLightness) {
        for (let k = 0; k < 3; k++) {
          for (let i = 0; i < 3; i++) c[k] += shares[i] * pulls[i].rgb[k];
        }
      }
      rgbToOklab(c);
      for (let i = 0; i < 3; i++) {
        c[0] += shares[i] * pulls[i].lift;
        if (s.keepLightness) {
          c[1] += shares[i] * pulls[i].a;
          c[2] += shares[i] * pulls[i].b;
        }
      }
      if (s.keepLightness) {
        const fits = chromaThatFits(c[0], c[1], c[2]);
        c[1] *= fits;
        c[2] *= fits;
      }
      oklabToRgb(c);
    };
  },
});
