import { gradientOf, interpolations, isGreyGradient } from '../colour/gradient';
import { rgbToOklab } from '../colour/oklab';
import { luma } from '../colour/srgb';
import { darkEndOf } from '../colour/dark-end';
import { keepsTones } from '../colour/mixes';
import { defineStep } from './define';
import { choice, flag, stops } from '../settings/fields';

/** A gradient laid over the tones: each takes the gradient's colour at its luma, or at its OKLab L. */
export const gradientMap = defineStep({
  kind: 'gradient-map',
  stage: 'tone',
  face: 'ramp',
  givesColour: true,
  advise: ({ stops, reverse }, mix) => {
    // A mix that keeps the tones beneath keeps their black as well.
    if (keepsTones(mix)) return [];
    const { weakBlack, turnsRound } = darkEndOf(stops, reverse);
    if (turnsRound) return [{ what: 'dark-end-lighter' }];
    return weakBlack === null ? [] : [{ what: 'weak-black', lightness: weakBlack }];
  },
  fields: {
    stops: stops([
      { at: 0, colour: '#000000' },
      { at: 1, colour: '#ffffff' },
    ]),
    interpolation: choice(interpolations, 'srgb'),
    smooth: flag(false),
    reverse: flag(false),
    index: choice(['luma', 'lightness'], 'luma'),
  },
  leavesGrey: s => s.interpolation !== 'oklab' && isGreyGradient(s.stops),
  point: s => {
    const colourAt = gradientOf(s.stops, s);
    if (s.index === 'luma') return c => colourAt(luma(c[0], c[1], c[2]), c);
    return c => {
      rgbToOklab(c);
      colourAt(c[0], c);
    };
  },
});
