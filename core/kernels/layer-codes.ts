import { mixer, type Mix } from '../colour/mixes';

/** Layers of a picture as 8-bit codes, row by row. */

/** Colours (RGB) and how far they cover (grey as RGB; null for wholly) as RGBA; nothing is told of colours that are not seen. */
export function writeRgba(
  colours: Uint8Array,
  cover: Uint8Array | null,
  count: number,
  out: Uint8Array,
): void {
  for (let i = 0, o = 0, p = 0; i < count; i++, o += 4, p += 3) {
    const alpha = cover ? cover[p] : 255;
    out[o] = alpha ? colours[p] : 0;
    out[o + 1] = alpha ? colours[p + 1] : 0;
    out[o + 2] = alpha ? colours[p + 2] : 0;
    out[o + 3] = alpha;
  }
}

const beneath = new Float64Array(3);
const mixed = new Float64Array(3);

/**
 * Lays a layer on an opaque picture, in place, as programs for pictures do.
 * Source: W3C Compositing and Blending Level 1, section 5.1 and 9.1.4, for an opaque backdrop.
 * @param picture encoded RGB, 16-bit codes
 * @param layer RGBA, 8-bit codes
 * @param opacity 0..1
 */
export function layLayer(
  picture: Uint16Array,
  layer: Uint8Array,
  count: number,
  mode: Mix,
  opacity: number,
): void {
  const mix = mixer(mode);
  for (let i = 0, o = 0, p = 0; i < count; i++, o += 4, p += 3) {
    const weight = (layer[o + 3] / 255) * opacity;
    if (weight === 0) continue;
    for (let k = 0; k < 3; k++) {
      beneath[k] = picture[p + k] / 65535;
      mixed[k] = layer[o + k] / 255;
    }
    mix(beneath, mixed);
    for (let k = 0; k < 3; k++) {
      picture[p + k] = Math.round((beneath[k] + weight * (mixed[k] - beneath[k])) * 65535);
    }
  }
}

/** Lays an opaque picture on another by a share 0..1, in place. */
export function layPicture(picture: Uint16Array, over: Uint16Array, share: number): void {
  for (let i = 0; i < picture.length; i++)
    picture[i] = Math.round(picture[i] + share * (over[i] - picture[i]));
}

/** How far pictures are apart, in 255ths: the sum over all numbers, and the most. */
export function apart(picture: Uint16Array, rendered: Uint8Array): { sum: number; most: number } {
  let sum = 0;
  let most = 0;
  for (let i = 0; i < picture.length; i++) {
    const d = Math.abs(picture[i] / 257 - rendered[i]);
    sum += d;
    if (d > most) most = d;
  }
  return { sum, most };
}
