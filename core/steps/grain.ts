import { addGrain, grainPlane } from '../kernels/grain';
import { defineStep } from './define';
import { choice, fraction, whole } from '../settings/fields';

/** Size of a grain as a fraction of the long edge (at size 0.5), share of a finer octave, and depth. */
const characters: Record<
  'fine' | 'classic' | 'coarse' | 'soft',
  { cell: number; finer: number; depth: number }
> = {
  fine: { cell: 0.00042, finer: 0.5, depth: 0.8 },
  classic: { cell: 0.0006, finer: 0.6, depth: 1 },
  coarse: { cell: 0.0011, finer: 0.75, depth: 1.2 },
  soft: { cell: 0.0009, finer: 0.15, depth: 0.9 },
};

/** Encoded amplitude at amount 1. */
const DEPTH = 0.3;

/**
 * Grain: band-limited noise (two octaves of gradient noise, by a hash of position and seed) added to the three
 * channels alike, strongest in the midtones, none at black and white. Anchored to the photograph; where a
 * pixel is wider than a grain, the noise is weakened as its mean over the pixel would be.
 */
export const grain = defineStep({
  kind: 'grain',
  stage: 'finish',
  face: 'grain',
  seenNatural: true,
  fields: {
    amount: fraction(),
    size: fraction(0.5),
    clumping: fraction(0.3),
    character: choice(['fine', 'classic', 'coarse', 'soft'], 'classic'),
    seed: whole(0, 2147483647, 1),
  },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0) return null;
    const { cell, finer, depth } = characters[s.character];
    const { size, clumping, character, seed } = s;
    return {
      keepsGrey: true,
      inPlace: true,
      placedKey: JSON.stringify([size, clumping, character, seed]),
      placed: region => grainPlane(region, { cell: cell * 3 ** (2 * size - 1), finer, clumping, seed }),
      own: (region, _survey, out, grains) => {
        addGrain(region.rgb, out, grains, DEPTH * depth * s.amount);
      },
    };
  },
});
