import { luma } from '../colour/srgb';
import { defineStep } from './define';
import { amount, fraction } from '../settings/fields';

/**
 * Colour drawn away from or towards the grey of equal luma: at -1 that grey, at 1 twice the distance. What
 * already has colour (largest less smallest channel) is left alone by as much as `spare` says.
 */
export const saturation = defineStep({
  kind: 'saturation',
  stage: 'ground',
  face: 'hues',
  fields: { amount: amount(), spare: fraction() },
  leavesGrey: s => s.amount === -1 && s.spare === 0,
  point: s => {
    if (s.amount === 0) return () => undefined;
    return c => {
      const grey = luma(c[0], c[1], c[2]);
      const span = Math.min(1, Math.max(c[0], c[1], c[2]) - Math.min(c[0], c[1], c[2]));
      const scale = 1 + s.amount * (1 - s.spare * span);
      for (let i = 0; i < 3; i++) c[i] = grey + scale * (c[i] - grey);
    };
  },
});
