import { luma } from '../colour/srgb';
import { defineStep } from './define';
import { amount } from '../settings/fields';

/**
 * The photograph's own colour let through: the picture with only the Ground steps beneath this one, its
 * saturation raised or lowered about luma.
 */
export const keepColour = defineStep({
  kind: 'keep-colour',
  stage: 'colour',
  face: 'area',
  startsOnArea: true,
  givesColour: true,
  fields: { saturation: amount() },
  usesGround: true,
  point: (s, { ground }) => {
    const scale = 1 + s.saturation;
    return c => {
      c.set(ground);
      if (scale === 1) return;
      const grey = luma(c[0], c[1], c[2]);
      for (let i = 0; i < 3; i++) c[i] = grey + scale * (c[i] - grey);
    };
  },
});
