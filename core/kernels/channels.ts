import { LUMINANCE } from '../colour/srgb';
import type { Plane } from './planes';

/** Between interleaved RGB and single planes. */

/** Interleaved encoded RGB of a part of a picture, and where it lies in that, in pixels. */
export interface RgbPart {
  rgb: Float32Array;
  x: number;
  y: number;
  width: number;
  height: number;
}

const [R, G, B] = LUMINANCE;

/** Luma (encoded) of each pixel. */
export function lumaPlane(rgb: Float32Array, width: number, height: number): Plane {
  const values = new Float32Array(width * height);
  for (let i = 0, p = 0; i < values.length; i++, p += 3)
    values[i] = R * rgb[p] + G * rgb[p + 1] + B * rgb[p + 2];
  return { width, height, values };
}

/** One channel. */
export function channelPlane(rgb: Float32Array, channel: 0 | 1 | 2, width: number, height: number): Plane {
  const values = new Float32Array(width * height);
  for (let i = 0, p = channel; i < values.length; i++, p += 3) values[i] = rgb[p];
  return { width, height, values };
}

/** The smallest of the three channels. */
export function leastPlane(rgb: Float32Array, width: number, height: number): Plane {
  const values = new Float32Array(width * height);
  for (let i = 0, p = 0; i < values.length; i++, p += 3) values[i] = Math.min(rgb[p], rgb[p + 1], rgb[p + 2]);
  return { width, height, values };
}
