import { shade } from '../kernels/shade';
import { defineStep } from './define';
import { amount, fraction, group } from './fields';

/** Stops by which the corners darken (or lighten) at amount 1. */
const STOPS = 2.5;

/**
 * Edges darkened or lightened along a superellipse |x|ⁿ + |y|ⁿ = 1 around the centre: a rectangle at roundness
 * -1 (n = 8), the frame's own ellipse at 0 (n = 2), a circle at 1. Size is how far out it begins, feather
 * how softly. It follows the crop. Darkening is in linear light and can spare the highlights.
 */
export const vignette = defineStep({
  kind: 'vignette',
  stage: 'finish',
  fields: {
    amount: amount(),
    size: fraction(0.6),
    roundness: amount(),
    feather: fraction(0.6),
    centre: group({ x: fraction(0.5), y: fraction(0.5) }),
    spareHighlights: fraction(),
  },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0) return null;
    return {
      keepsGrey: true,
      own: (region, _survey, out) => {
        const { scale } = region;
        // Half axes in pixels of the frame: its own, drawn towards equal ones for a circle.
        const most = Math.max(scale.width, scale.height) / 2;
        const least = Math.min(scale.width, scale.height) / 2;
        const round = Math.max(0, s.roundness);
        const middle = (most + least) / 2;
        const toCircle = (half: number) => half + round * (middle - half);
        const reach = 0.25 + 1.25 * s.size;
        shade(region, out, {
          centreX: s.centre.x * scale.width,
          centreY: s.centre.y * scale.height,
          halfX: toCircle(scale.width / 2) * reach,
          halfY: toCircle(scale.height / 2) * reach,
          power: s.roundness < 0 ? 2 * 4 ** -s.roundness : 2,
          softness: 0.02 + 0.98 * s.feather,
          stops: s.amount * STOPS,
          spare: s.spareHighlights,
        });
      },
    };
  },
});
