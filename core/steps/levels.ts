import { defineStep } from './define';
import { fraction, ratio } from '../settings/fields';

/**
 * Levels on each channel: the tones from `inBlack` to `inWhite` are spread over the scale (beyond them
 * clipped), bent by gamma, and laid between `outBlack` and `outWhite`. With `inWhite` at or below `inBlack` it is
 * a hard edge there.
 */
export const levels = defineStep({
  kind: 'levels',
  stage: 'tone',
  face: 'curve',
  fields: {
    inBlack: fraction(),
    inWhite: fraction(1),
    gamma: ratio(10),
    outBlack: fraction(),
    outWhite: fraction(1),
  },
  point: s => {
    const still = s.inBlack === 0 && s.inWhite === 1 && s.gamma === 1 && s.outBlack === 0 && s.outWhite === 1;
    if (still) return () => undefined;
    const span = Math.max(1e-6, s.inWhite - s.inBlack);
    const power = 1 / s.gamma;
    return c => {
      for (let i = 0; i < 3; i++) {
        const t = Math.min(1, Math.max(0, (c[i] - s.inBlack) / span));
        c[i] = s.outBlack + (s.outWhite - s.outBlack) * (power === 1 ? t : t ** power);
      }
    };
  },
});
