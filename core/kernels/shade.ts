import { compiled, inChunks } from './compiled';
import { tabulate } from '../colour/tabulate';
import { toEncoded, toLinear } from '../colour/transfer';

export interface Outline {
  /** Pixels of the framed picture. */
  centreX: number;
  centreY: number;
  halfX: number;
  halfY: number;
  /** Exponent of the superellipse. */
  power: number;
  /** The band around the outline over which the shade comes in, as a share of its radius. */
  softness: number;
}

/** How much of the shade each pixel of a region gets: none inside a superellipse, rising smoothly to 1 outside. */
export function shadeWeights(
  { x: left, y: top, width, height }: { x: number; y: number; width: number; height: number },
  { centreX, centreY, halfX, halfY, power, softness }: Outline,
): Float32Array {
  const weights = new Float32Array(width * height);
  const from = 1 - softness / 2;
  for (let y = 0, i = 0; y < height; y++) {
    const dy = Math.abs(top + y + 0.5 - centreY) / halfY;
    const vertical = power === 2 ? dy * dy : dy ** power;
    for (let x = 0; x < width; x++, i++) {
      const dx = Math.abs(left + x + 0.5 - centreX) / halfX;
      const radius = power === 2 ? Math.sqrt(dx * dx + vertical) : (dx ** power + vertical) ** (1 / power);
      let t = (radius - from) / softness;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      weights[i] = t * t * t * (t * (t * 6 - 15) + 10);
    }
  }
  return weights;
}

/** Gains by weight: between the entries a straight line, within 1e-7 of the power. */
const GAINS = 1024;

/** Gains of light, and the same as they act on encoded values along the power part of the sRGB curve. */
interface Gains {
  stops: number;
  light: Float32Array;
  encoded: Float32Array;
}
let last: Gains | undefined;

function gainsOf(stops: number): Gains {
  if (last?.stops === stops) return last;
  const gain = (i: number) => 2 ** ((-stops * i) / GAINS);
  const length = GAINS + 2;
  last = {
    stops,
    light: Float32Array.from({ length }, (_, i) => gain(i)),
    encoded: Float32Array.from({ length }, (_, i) => gain(i) ** (1 / 2.4)),
  };
  return last;
}

/** Linear light of encoded values up to 1, for those that the darkening brings into the toe of the curve. */
const LIGHTS = 4096;
const lights = new Float32Array(tabulate(LIGHTS + 2, i => toLinear(i / LIGHTS)));

/** Less light by weights, through the compiled kernel: along either part of the sRGB curve a gain is a straight line. */
function dim(rgb: Float32Array, out: Float32Array, weights: Float32Array, gains: Gains, spare: number): void {
  const { kernels, colours, greys, addressesOf } = compiled();
  const [light, encoded, ofLight] = addressesOf(gains.light, gains.encoded, lights);
  inChunks(weights.length, (from, n) => {
    colours.view.set(rgb.subarray(from * 3, (from + n) * 3));
    greys.view.set(weights.subarray(from, from + n));
    kernels.dim(colours.at, greys.at, n, light, encoded, ofLight, spare);
    out.set(colours.view.subarray(0, n * 3), from * 3);
  });
}

/**
 * Darkens or lightens by weights, in linear light; lightening never passes white. `out` may be `rgb`.
 * @param stops of light at weight 1: negative darkens
 * @param spare how far bright tones are spared, 0..1
 */
export function shade(
  rgb: Float32Array,
  out: Float32Array,
  weights: Float32Array,
  stops: number,
  spare: number,
): void {
  const gains = gainsOf(Math.abs(stops));
  if (stops < 0) {
    dim(rgb, out, weights, gains, spare);
    return;
  }
  const { light } = gains;
  for (let i = 0, p = 0; i < weights.length; i++, p += 3) {
    const r = rgb[p];
    const g = rgb[p + 1];
    const b = rgb[p + 2];
    let weight = weights[i];
    if (spare > 0) {
      let h = (0.2126 * r + 0.7152 * g + 0.0722 * b - 0.5) * 2;
      h = h < 0 ? 0 : h > 1 ? 1 : h;
      weight *= 1 - spare * h * h * (3 - 2 * h);
    }
    const at = weight * GAINS;
    const j = at | 0;
    const gain = light[j] + (light[j + 1] - light[j]) * (at - j);
    out[p] = weight === 0 || r >= 1 ? r : toEncoded(1 - gain * (1 - toLinear(r)));
    out[p + 1] = weight === 0 || g >= 1 ? g : toEncoded(1 - gain * (1 - toLinear(g)));
    out[p + 2] = weight === 0 || b >= 1 ? b : toEncoded(1 - gain * (1 - toLinear(b)));
  }
}
