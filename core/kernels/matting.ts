import { colourGuided, product, type ColourGuide } from './guided';
import { boxMean, type Plane } from './planes';

/**
 * What belongs to a thing and what does not, told apart by their colours around each place. Within a window the best straight line in
 * the colours is fitted to what is known so far, which is Fisher's discriminant and the guided filter in one (K. He, J. Sun,
 * X. Tang, "Guided Image Filtering", IEEE TPAMI 35, 2013, section 3.5: matting); its threshold lies between what the line gives for
 * the one and for the other, so that the smaller of the two is not outvoted.
 */

/** How far the threshold is drawn to the middle between both, from one half. */
const EVEN = 0.6;
/** How sharply the two are parted. */
const CUT = 3;
/** Less of one of them than this is none. */
const NONE = 1e-3;

/**
 * Tells the cells of a band apart once more, in place.
 * @param colours the picture, and what is known of it in the window
 * @param values how much each cell belongs, 0..1
 * @param within cells that are told apart; the others are known
 * @param epsilon the variance (encoded units squared) below which a window counts as flat
 */
export function partByColours(
  colours: ColourGuide,
  values: Float32Array,
  within: Uint8Array,
  epsilon: number,
): void {
  const { guide, radius } = colours;
  const [plane] = guide;
  const { width, height } = plane;
  const count = width * height;
  const known: Plane = { width, height, values };
  const [{ a, d }] = colourGuided(colours, [known], epsilon);
  const [ar, ag, ab] = a.map(p => p.values);
  const [r, g, b] = guide.map(p => p.values);
  const line = d.values;
  for (let i = 0; i < count; i++) line[i] += ar[i] * r[i] + ag[i] * g[i] + ab[i] * b[i];
  const mean = boxMean(d, radius).values;
  const inside = boxMean(known, radius).values;
  const ofInside = boxMean(product(known, d), radius).values;
  for (let i = 0; i < count; i++) {
    if (!within[i]) continue;
    const outside = 1 - inside[i];
    let middle = 0.5;
    if (inside[i] > NONE && outside > NONE) {
      const between = (ofInside[i] / inside[i] + (mean[i] - ofInside[i]) / outside) / 2;
      middle += EVEN * (between - middle);
    }
    const t = CUT * (line[i] - middle) + 0.5;
    values[i] = t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t);
  }
}
