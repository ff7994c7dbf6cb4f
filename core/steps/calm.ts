import { calmChroma, calmCodes, chromaPlane } from '../kernels/calm';
import { channelPlane } from '../kernels/channels';
import { colourGuide, colourGuided, type ColourGuided } from '../kernels/guided';
import { linesOf, type Lines } from '../kernels/lines';
import { halvePlane } from '../kernels/planes';
import type { Field } from './define';

/**
 * The picture with the noise of its colours taken out, its luma and its edges of colour kept: a guided filter of the
 * chroma with the colour itself as guide (K. He, J. Sun, X. Tang, "Guided Image Filtering", IEEE TPAMI 35, 2013). What
 * answers strongly to hue reads this, or it would draw the blocks of a JPEG's halved colour and the speckle of a sky.
 */

/** Of the window, as a fraction of the long edge: wider than a block of halved colour in a small photograph. */
const RADIUS = 0.012;
/** Fewer pixels to each side hold too few colours to tell noise from an edge. */
const LEAST_RADIUS = 3;
/** Variance (encoded values squared) below which colours count as one: steps of about six codes. */
const EPSILON = 0.0006;
/**
 * A small picture with a longer edge is halved first, until the window is a few pixels wide: the lines are smooth (K. He,
 * J. Sun, "Fast Guided Filter", 2015).
 */
const LONG_ENOUGH = 400;

export const calmField: Field = {
  keepsGrey: true,
  surveyKey: 'calm',
  survey: ({ rgb, width, height, scale }): Lines => {
    let planes = [
      channelPlane(rgb, 0, width, height),
      channelPlane(rgb, 1, width, height),
      channelPlane(rgb, 2, width, height),
    ];
    let { longEdge } = scale;
    while (longEdge > LONG_ENOUGH) {
      planes = planes.map(halvePlane);
      longEdge /= 2;
    }
    const [r, g, b] = planes;
    const chroma = [chromaPlane(r, r, g, b), chromaPlane(b, r, g, b)];
    const radius = Math.max(LEAST_RADIUS, Math.round(RADIUS * longEdge));
    const found = colourGuided(colourGuide([r, g, b], radius), chroma, EPSILON);
    return linesOf(found.flatMap(({ a, d }: ColourGuided) => [...a, d]));
  },
  own: (region, survey, out) => calmChroma(region, survey as Lines, region.scale, out),
  ownCodes: (codes, region, survey, out) => calmCodes(codes, region, survey as Lines, region.scale, out),
};
