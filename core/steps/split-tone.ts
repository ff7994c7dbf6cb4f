import { rgbToOklab } from '../colour/oklab';
import { smoothstep } from '../colour/tones';
import { layPulls, pullOf } from '../colour/toning';
import { defineStep } from './define';
import { amount, fraction, group, hue } from '../settings/fields';

/**
 * Where the ranges lie over OKLab L: the share of the highlights rises smoothly from 0 to 1 across the
 * crossover, centred on the balance; the shadows have the rest, and the midtones are a bump of height 1
 * where the two meet, 4 h (1 − h).
 * @param balance -1..1 moves the centre: positive gives the highlights more of the scale
 * @param crossover 0..1 from an edge to the whole scale
 * @returns the share h of the highlights at L
 */
export function highlightShare(balance: number, crossover: number): (L: number) => number {
  const centre = 0.55 - 0.4 * balance;
  const half = 0.02 + 0.5 * crossover;
  return L => smoothstep((L - centre + half) / (2 * half));
}

/**
 * Split toning in OKLab: each range adds its hue to the tones it holds, chroma being saturation times what
 * sRGB holds at that lightness and hue, so that it closes to none at black and white. L is kept; the sum gives way in
 * chroma as it comes near the edge of sRGB. With the midtones at
 * saturation 0 they are what lies between the two.
 */
export const splitTone = defineStep({
  kind: 'split-tone',
  stage: 'tone',
  face: 'ramp',
  givesColour: true,
  coloursTones: true,
  fields: {
    shadows: group({ hue: hue(230), saturation: fraction() }),
    midtones: group({ hue: hue(30), saturation: fraction() }),
    highlights: group({ hue: hue(40), saturation: fraction() }),
    balance: { ...amount(), above: 'tone-ramp' },
    crossover: fraction(0.5),
  },
  // The hue at full strength, while it is chosen.
  whileHeld: (settings, [range, setting]) =>
    setting === 'hue' && (range === 'shadows' || range === 'midtones' || range === 'highlights')
      ? { settings: { ...settings, [range]: { ...settings[range], saturation: 1 } } }
      : null,
  point: settings => {
    const pulls = [settings.shadows, settings.midtones, settings.highlights].map(pullOf);
    const weights = new Float64Array(3);
    const share = highlightShare(settings.balance, settings.crossover);
    const still = [settings.shadows, settings.midtones, settings.highlights].every(r => r.saturation === 0);
    if (still) return () => undefined;

    return c => {
      rgbToOklab(c);
      const high = share(c[0]);
      const low = 1 - high;
      weights[0] = low;
      weights[1] = 4 * high * low;
      weights[2] = high;
      layPulls(c, pulls, weights);
    };
  },
});

export type SplitToneSettings = (typeof splitTone)['defaults'];
