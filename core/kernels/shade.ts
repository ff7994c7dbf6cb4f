import { toEncoded, toLinear } from './transfer';

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
const gains = new Float64Array(GAINS + 2);
/** The same gains as they act on encoded values. */
const encodedGains = new Float64Array(GAINS + 2);

let tabled = NaN;

function tabulate(stops: number): void {
  if (stops === tabled) return;
  for (let i = 0; i <= GAINS + 1; i++) {
    gains[i] = 2 ** ((-stops * i) / GAINS);
    encodedGains[i] = gains[i] ** (1 / 2.4);
  }
  tabled = stops;
}

/** The sRGB curve: light is v / 12.92 up to the toe, ((v + 0.055) / 1.055) to the 2.4 from there on. */
const TOE = 0.04045;
const TOE_SLOPE = 12.92;
const OFFSET = 0.055;

/**
 * An encoded value with its light multiplied by a gain up to 1. Along the power part that is a straight line in the
 * encoded value, along the toe another.
 * @param slope the gain to the 1/2.4
 * @param shift 0.055 · (slope − 1)
 */
function dimmed(v: number, gain: number, slope: number, shift: number): number {
  if (v <= TOE) return v * gain;
  const along = v * slope + shift;
  return along > TOE ? along : toLinear(v) * gain * TOE_SLOPE;
}

/**
 * Darkens or lightens by weights, in linear light; lightening never passes white.
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
  tabulate(Math.abs(stops));
  const darkens = stops < 0;
  for (let i = 0, p = 0; i < weights.length; i++, p += 3) {
    const r = rgb[p];
    const g = rgb[p + 1];
    const b = rgb[p + 2];
    let weight = weights[i];
    if (weight === 0) {
      out[p] = r;
      out[p + 1] = g;
      out[p + 2] = b;
      continue;
    }
    if (spare > 0) {
      let h = (0.2126 * r + 0.7152 * g + 0.0722 * b - 0.5) * 2;
      h = h < 0 ? 0 : h > 1 ? 1 : h;
      weight *= 1 - spare * h * h * (3 - 2 * h);
    }
    const at = weight * GAINS;
    const j = at | 0;
    const gain = gains[j] + (gains[j + 1] - gains[j]) * (at - j);
    if (darkens) {
      const slope = encodedGains[j] + (encodedGains[j + 1] - encodedGains[j]) * (at - j);
      const shift = OFFSET * slope - OFFSET;
      out[p] = dimmed(r, gain, slope, shift);
      out[p + 1] = dimmed(g, gain, slope, shift);
      out[p + 2] = dimmed(b, gain, slope, shift);
    } else {
      out[p] = r >= 1 ? r : toEncoded(1 - gain * (1 - toLinear(r)));
      out[p + 1] = g >= 1 ? g : toEncoded(1 - gain * (1 - toLinear(g)));
      out[p + 2] = b >= 1 ? b : toEncoded(1 - gain * (1 - toLinear(b)));
    }
  }
}
