import { pick, resample } from '../kernels/resample';
import type { Codes } from '../kernels/grid';
import type { Geometry, Rectangle } from './geometry';

/**
 * A rectangle of a picture: encoded sRGB, codes of 16 or 8 bits, interleaved RGB, row by row. Where it lies in the
 * picture, in pixels, is what dither and grain are anchored to.
 */
export interface Tile extends Rectangle {
  codes: Codes;
}

/**
 * A rectangle of the framed picture, from pixels of the photograph that hold at least what `sourceOf` asks
 * for.
 */
export function framed(source: Tile, geometry: Geometry, part: Rectangle): Tile {
  const { codes } = source;
  const asIs = geometry.untouched && source.x === part.x && source.width === part.width && source.y <= part.y;
  if (asIs) {
    const from = (part.y - source.y) * part.width * 3;
    return { ...part, codes: codes.subarray(from, from + part.width * part.height * 3) };
  }
  const out = new Uint16Array(part.width * part.height * 3);
  if (geometry.exact) pick(source, part, geometry.toPhotograph, out);
  else resample(source, geometry.photograph, part, geometry.toPhotograph, out);
  return { ...part, codes: out };
}
