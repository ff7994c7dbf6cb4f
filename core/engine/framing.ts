import { pick, resample } from '../kernels/resample';
import type { Codes } from '../kernels/grid';
import type { Geometry, Rectangle } from './geometry';
import type { Tile } from './render';

/** Pixels of a photograph, or of a part of it: interleaved RGB codes, of 8 or 16 bits. */
export interface Source extends Rectangle {
  codes: Codes;
}

/**
 * A rectangle of the framed picture, from pixels of the photograph that hold at least what `sourceOf` asks
 * for.
 */
export function framed(source: Source, geometry: Geometry, part: Rectangle): Tile {
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
