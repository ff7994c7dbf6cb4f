import { toEncoded, toLinear } from './transfer';

export interface Shade {
  /** Pixels of the framed picture. */
  centreX: number;
  centreY: number;
  halfX: number;
  halfY: number;
  /** Exponent of the superellipse. */
  power: number;
  /** The band around the outline over which the shade comes in, as a share of its radius. */
  softness: number;
  /** Stops of light at the far end: negative darkens. */
  stops: number;
  /** How far bright tones are spared, 0..1. */
  spare: number;
}

/** Darkens or lightens a region outside a superellipse, in linear light; lightening never passes white. */
export function shade(
  region: { rgb: Float32Array; x: number; y: number; width: number; height: number },
  out: Float32Array,
  { centreX, centreY, halfX, halfY, power, softness, stops, spare }: Shade,
): void {
  const { rgb, x: left, y: top, width, height } = region;
  const from = 1 - softness / 2;
  for (let y = 0, p = 0; y < height; y++) {
    const dy = Math.abs(top + y + 0.5 - centreY) / halfY;
    const vertical = power === 2 ? dy * dy : dy ** power;
    for (let x = 0; x < width; x++, p += 3) {
      const dx = Math.abs(left + x + 0.5 - centreX) / halfX;
      const radius = power === 2 ? Math.sqrt(dx * dx + vertical) : (dx ** power + vertical) ** (1 / power);
      let t = (radius - from) / softness;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      let weight = t * t * t * (t * (t * 6 - 15) + 10);
      if (weight === 0) {
        out[p] = rgb[p];
        out[p + 1] = rgb[p + 1];
        out[p + 2] = rgb[p + 2];
        continue;
      }
      if (spare > 0) {
        const y709 = 0.2126 * rgb[p] + 0.7152 * rgb[p + 1] + 0.0722 * rgb[p + 2];
        let h = (y709 - 0.5) * 2;
        h = h < 0 ? 0 : h > 1 ? 1 : h;
        weight *= 1 - spare * h * h * (3 - 2 * h);
      }
      if (stops < 0) {
        const gain = 2 ** (stops * weight);
        for (let k = p; k < p + 3; k++) out[k] = toEncoded(toLinear(rgb[k]) * gain);
      } else {
        const lift = 1 - 2 ** (-stops * weight);
        for (let k = p; k < p + 3; k++) {
          const v = toLinear(rgb[k]);
          out[k] = v >= 1 ? rgb[k] : toEncoded(v + lift * (1 - v));
        }
      }
    }
  }
}
