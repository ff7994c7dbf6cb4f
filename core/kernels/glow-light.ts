import { planeOf, type Plane } from './planes';
import { toEncoded, toLinear } from '../colour/transfer';

/**
 * The linear light of what is bright: each channel weighted by a smooth rise of luminance between two levels.
 */
export function brightPlanes(
  rgb: Float32Array,
  width: number,
  height: number,
  [from, to]: readonly [number, number],
): [Plane, Plane, Plane] {
  const r = planeOf(width, height);
  const g = planeOf(width, height);
  const b = planeOf(width, height);
  for (let i = 0, p = 0; i < r.values.length; i++, p += 3) {
    const lr = toLinear(rgb[p] < 0 ? 0 : rgb[p] > 1 ? 1 : rgb[p]);
    const lg = toLinear(rgb[p + 1] < 0 ? 0 : rgb[p + 1] > 1 ? 1 : rgb[p + 1]);
    const lb = toLinear(rgb[p + 2] < 0 ? 0 : rgb[p + 2] > 1 ? 1 : rgb[p + 2]);
    let t = (0.2126 * lr + 0.7152 * lg + 0.0722 * lb - from) / (to - from);
    t = t < 0 ? 0 : t > 1 ? 1 : t;
    const weight = t * t * (3 - 2 * t);
    r.values[i] = lr * weight;
    g.values[i] = lg * weight;
    b.values[i] = lb * weight;
  }
  return [r, g, b];
}

/** Lays light over one channel of encoded RGB, in linear light: 1 − (1 − x)(1 − gain · light). */
export function layGlow(rgb: Float32Array, channel: number, light: Float32Array, gain: number): void {
  for (let i = 0, p = channel; i < light.length; i++, p += 3) {
    const added = gain * light[i];
    if (added <= 0) continue;
    const x = toLinear(rgb[p]);
    if (x >= 1) continue;
    rgb[p] = toEncoded(x + added * (1 - x));
  }
}
