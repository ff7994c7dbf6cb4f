import { laidOut } from './compiled';
import type { Features } from './features';

/** How far what a stroke lies on may differ from it and still be like it, as a deviation in features. */
const WIDENED = 0.068;
/** Bins of the histogram along each feature. */
const BINS = 24;

/** A histogram softened along one axis by a Gaussian of a deviation in bins. */
function softened(bins: Float32Array, stride: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const weights = Float32Array.from({ length: reach + 1 }, (_, k) => Math.exp(-0.5 * (k / sigma) ** 2));
  const out = new Float32Array(bins.length);
  for (let i = 0; i < bins.length; i++) {
    const v = bins[i];
    if (v === 0) continue;
    const place = Math.floor(i / stride) % BINS;
    const least = Math.max(-reach, -place);
    const most = Math.min(reach, BINS - 1 - place);
    for (let k = least; k <= most; k++) out[i + k * stride] += v * weights[k < 0 ? -k : k];
  }
  return out;
}

/** How like each cell is to what lies under seeds, 0..1: 1 where they have most of it, the root of what they have of others. */
export function likeness({ features, width, height }: Features, seeds: Uint8Array): Float32Array {
  const count = width * height;
  // Bins lie about what the seeds have, so that close tones are told apart.
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  const places: number[] = [];
  for (let i = 0; i < count; i++) {
    if (!seeds[i]) continue;
    places.push(i);
    for (let k = 0; k < 3; k++) {
      const v = features[k][i];
      if (v < low[k]) low[k] = v;
      if (v > high[k]) high[k] = v;
    }
  }
  if (!places.length) return new Float32Array(count);
  const scale = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    low[k] -= 3 * WIDENED;
    scale[k] = BINS / (high[k] + 3 * WIDENED - low[k]);
  }
  let bins = new Float32Array(BINS ** 3);
  const strides = [BINS * BINS, BINS, 1];
  for (const i of places) {
    let at = 0;
    for (let k = 0; k < 3; k++) {
      const bin = Math.floor((features[k][i] - low[k]) * scale[k]);
      at += strides[k] * Math.min(BINS - 1, Math.max(0, bin));
    }
    bins[at]++;
  }
  for (let k = 0; k < 3; k++) bins = softened(bins, strides[k], WIDENED * scale[k]) as typeof bins;
  let most = 0;
  for (const v of bins) if (v > most) most = v;
  const { at, views, kernels } = laidOut(Math.max(count, bins.length), ...features, bins, null);
  const [f, g, h, ofBins, toOut] = at;
  const [down, across] = strides;
  const last = BINS - 1.001;
  kernels.likeness(f, g, h, count, ofBins, down, across, last, ...low, ...scale, most, toOut);
  return views[4].slice(0, count);
}
