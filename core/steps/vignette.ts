import { shade, shadeWeights } from '../kernels/shade';
import { defineStep } from './define';
import { amount, fraction, group, type Position } from '../settings/fields';

/** Stops by which the corners darken (or lighten) at amount 1. */
const STOPS = 2.5;
/** How much further out it begins at size 1, in half frames. */
const REACH_OF_SIZE = 1.25;
/** How far outside of the picture its handle may lie, as a share of the width. */
const OUTSIDE = 0.05;
const OUTLINE_POINTS = 96;

interface VignetteSettings {
  size: number;
  roundness: number;
  feather: number;
  centre: { x: number; y: number };
}

/**
 * The superellipse of a vignette in a frame of a size (pixels): its half axes are the frame's own, drawn towards
 * equal ones for a circle, times `reach`.
 */
export function vignetteShape(
  { size, roundness, feather, centre }: VignetteSettings,
  { width, height }: { width: number; height: number },
) {
  const middle = (width + height) / 4;
  const toCircle = (half: number) => half + Math.max(0, roundness) * (middle - half);
  const reach = 0.25 + REACH_OF_SIZE * size;
  return {
    centreX: centre.x * width,
    centreY: centre.y * height,
    halfX: toCircle(width / 2) * reach,
    halfY: toCircle(height / 2) * reach,
    power: roundness < 0 ? 2 * 4 ** -roundness : 2,
    softness: 0.02 + 0.98 * feather,
    reach,
  };
}

/**
 * Edges darkened or lightened along a superellipse |x|ⁿ + |y|ⁿ = 1 around the centre: a rectangle at roundness
 * -1 (n = 8), the frame's own ellipse at 0 (n = 2), a circle at 1. Size is how far out it begins, feather
 * how softly. It follows the crop. Darkening is in linear light and can spare the highlights.
 */
export const vignette = defineStep({
  kind: 'vignette',
  stage: 'finish',
  face: 'corners',
  fields: {
    amount: amount(),
    size: fraction(0.6),
    roundness: amount(),
    feather: fraction(0.6),
    centre: group({ x: fraction(0.5), y: fraction(0.5) }),
    spareHighlights: fraction(),
  },
  overlay: (settings, { width, height }) => {
    const shape = vignetteShape(settings, { width, height });
    const at = (share: number, angle: number): Position => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const r = share / (Math.abs(c) ** shape.power + Math.abs(s) ** shape.power) ** (1 / shape.power);
      return [(shape.centreX + r * c * shape.halfX) / width, (shape.centreY + r * s * shape.halfY) / height];
    };
    const around = (share: number) =>
      Array.from({ length: OUTLINE_POINTS + 1 }, (_, i) => at(share, (i / OUTLINE_POINTS) * 2 * Math.PI));
    // Never far beyond the picture, where it could not be taken hold of.
    const side: Position = [Math.min(at(1, 0)[0], 1 + OUTSIDE), settings.centre.y];
    const within = (v: number) => Math.min(1, Math.max(0, v));
    return {
      handles: [
        {
          name: 'Middle of the vignette',
          at: [settings.centre.x, settings.centre.y],
          move: ([x, y]) => ({ ...settings, centre: { x: within(x), y: within(y) } }),
        },
        {
          name: 'Size of the vignette',
          at: side,
          alongX: true,
          move: ([x]) => {
            const whole = shape.halfX / width / shape.reach;
            return { ...settings, size: within(settings.size + (x - side[0]) / whole / REACH_OF_SIZE) };
          },
        },
      ],
      outline: [
        { points: around(1) },
        { points: around(Math.max(0.02, 1 - shape.softness / 2)), faint: true },
      ],
    };
  },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0) return null;
    const { size, roundness, feather, centre } = s;
    return {
      keepsGrey: true,
      inPlace: true,
      placedKey: JSON.stringify([size, roundness, feather, centre]),
      placed: region => shadeWeights(region, vignetteShape(s, region.scale)),
      own: (region, _survey, out, weights) => {
        shade(region.rgb, out, weights, s.amount * STOPS, s.spareHighlights);
      },
    };
  },
});
