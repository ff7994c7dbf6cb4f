import { brightPlanes, layGlow } from '../kernels/glow-light';
import { wideGaussian } from '../kernels/gaussian';
import { readPlane, type Plane } from '../kernels/planes';
import { defineStep } from './define';
import { fraction, length } from '../settings/fields';

/** A glow narrower than this (fraction of the long edge) would be a blur of the edges. */
const NARROWEST = 0.0015;
/** Halation spreads at least this far: light that went through the film and came back. */
const NARROWEST_HALATION = 0.004;
/** Linear light at which the glow begins, and at which it is whole; for halation nearer to white. */
const GLOW_FROM: [number, number] = [0.12, 0.75];
const HALATION_FROM: [number, number] = [0.5, 0.95];
/** The colour of halation, linear: the red layer lies deepest. */
const WARM: [number, number, number] = [1, 0.3, 0.07];

interface GlowSurvey {
  glow?: Plane[];
  halation?: Plane;
}

/**
 * Glow: the lights, blurred, laid over the picture as by a second exposure (screen in linear light).
 * Halation: warm light bleeding from the brightest. Both are read from the small survey of the picture.
 */
export const glow = defineStep({
  kind: 'glow',
  stage: 'finish',
  face: 'glow',
  fields: { amount: fraction(), radius: length(0.1, 0.015), halation: fraction() },
  point: () => () => undefined,
  field: s => {
    if (s.amount === 0 && s.halation === 0) return null;
    return {
      keepsGrey: s.halation === 0,
      survey: ({ rgb, width, height, scale }): GlowSurvey => {
        const found: GlowSurvey = {};
        if (s.amount > 0) {
          const sigma = Math.max(NARROWEST, s.radius) * scale.longEdge;
          found.glow = brightPlanes(rgb, width, height, GLOW_FROM).map(p => wideGaussian(p, sigma));
        }
        if (s.halation > 0) {
          const sigma = Math.max(NARROWEST_HALATION, s.radius * 0.6) * scale.longEdge;
          const [r, g, b] = brightPlanes(rgb, width, height, HALATION_FROM);
          for (let i = 0; i < r.values.length; i++) {
            r.values[i] = 0.2126 * r.values[i] + 0.7152 * g.values[i] + 0.0722 * b.values[i];
          }
          found.halation = wideGaussian(r, sigma);
        }
        return found;
      },
      own: (region, survey, out) => {
        const { glow: planes, halation } = survey as GlowSurvey;
        const read = (plane: Plane) => {
          const values = new Float32Array(region.width * region.height);
          readPlane(plane, region.scale, region, values);
          return values;
        };
        out.set(region.rgb.subarray(0, out.length));
        if (planes) {
          const lights = planes.map(read);
          for (let k = 0; k < 3; k++) layGlow(out, k, lights[k], 0.8 * s.amount);
        }
        if (halation) {
          const light = read(halation);
          for (let k = 0; k < 3; k++) layGlow(out, k, light, 0.9 * s.halation * WARM[k]);
        }
      },
    };
  },
});
