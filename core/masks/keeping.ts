import type { Geometry, Rectangle } from '../frame/geometry';
import { sourceOf } from '../frame/geometry';
import { readLattice, type Lattice } from '../kernels/dabs';
import { jointly } from '../kernels/jointly';
import type { Stroke } from '../settings/fields';
import type { CoverageInput } from './define';
import { withinEdges, type Within } from './finding/keep';
import { layStroke } from './strokes';

/** Strokes of which some keep to the edges of the picture: each is laid by itself, and held to what it may cover. */

/** The small framed picture, and what each stroke may cover of it; null for one that keeps to nothing. */
export interface Kept {
  width: number;
  height: number;
  codes: Uint8Array;
  within: (Within | null)[];
}

/** Finds what strokes may cover, in the whole picture, small. */
export function keptTo(
  strokes: readonly Stroke[],
  { sight, ground }: CoverageInput,
  whole: Rectangle,
  geometry: Geometry,
): Kept {
  if (!sight) throw new RangeError('a stroke keeps to edges, but there is no photograph to find them in');
  const { width, height } = whole;
  const codes = new Uint8ClampedArray(ground.length);
  for (let i = 0; i < codes.length; i++) codes[i] = 255 * ground[i];
  const cell = geometry.photograph.width / sight.picture.width;
  const within = strokes.map(stroke => {
    if (stroke.keepEdges === 0) return null;
    const found = withinEdges(stroke, sight);
    return found && inFrame(found, cell, whole, geometry);
  });
  return { width, height, codes: new Uint8Array(codes.buffer), within };
}

/** What may be covered of the photograph's picture, over the framed one. */
function inFrame(found: Within, cell: number, whole: Rectangle, geometry: Geometry): Within | null {
  const corner = new Float64Array(2);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const x of [found.x, found.x + found.width]) {
    for (const y of [found.y, found.y + found.height]) {
      geometry.toFramed(x * cell, y * cell, corner);
      left = Math.min(left, corner[0]);
      right = Math.max(right, corner[0]);
      top = Math.min(top, corner[1]);
      bottom = Math.max(bottom, corner[1]);
    }
  }
  const x = Math.max(0, Math.floor(left) - 1);
  const y = Math.max(0, Math.floor(top) - 1);
  const width = Math.min(whole.width, Math.ceil(right) + 1) - x;
  const height = Math.min(whole.height, Math.ceil(bottom) + 1) - y;
  if (!(width > 0 && height > 0)) return null;
  const part = { x, y, width, height };
  const read = new Float32Array(width * height);
  const values = Float32Array.from(found.values);
  const lattice: Lattice = { x: found.x, y: found.y, width: found.width, height: found.height, cell };
  readLattice(values, lattice, part, geometry.toPhotograph, read);
  return { ...part, values: Uint8Array.from(read, Math.round) };
}

/** A stroke alone, over a part of the framed picture. */
function laidOver(stroke: Stroke, region: Rectangle, geometry: Geometry): Float32Array {
  const out = new Float32Array(region.width * region.height);
  const alone = { ...stroke, erase: false };
  if (geometry.untouched) {
    layStroke(out, { ...region, cell: 1 }, alone, geometry.photograph);
    return out;
  }
  const source = sourceOf(geometry, region);
  // One cell more around, for the interpolation; cells are fixed to the photograph.
  const lattice = {
    cell: 1,
    x: source.x - 1,
    y: source.y - 1,
    width: source.width + 2,
    height: source.height + 2,
  };
  const laid = new Float32Array(lattice.width * lattice.height);
  layStroke(laid, lattice, alone, geometry.photograph);
  readLattice(laid, lattice, region, geometry.toPhotograph, out);
  return out;
}

/** The coverage of strokes, those that keep to edges held to what they may cover. */
export function laidWithin(
  strokes: readonly Stroke[],
  kept: Kept,
  ground: Float32Array,
  region: Rectangle,
  geometry: Geometry,
): Float32Array {
  const count = region.width * region.height;
  const values = new Float32Array(count);
  const { places, weights } = jointly(kept, geometry, region, ground);
  strokes.forEach((stroke, k) => {
    const may = kept.within[k];
    if (stroke.keepEdges > 0 && !may) return;
    const laid = laidOver(stroke, region, geometry);
    for (let i = 0; i < count; i++) {
      let share = laid[i];
      if (share === 0) continue;
      if (may) {
        let sum = 0;
        for (let n = i * 4; n < i * 4 + 4; n++) {
          const place = places[n];
          const x = (place % kept.width) - may.x;
          const y = Math.floor(place / kept.width) - may.y;
          if (x >= 0 && y >= 0 && x < may.width && y < may.height) {
            sum += weights[n] * may.values[y * may.width + x];
          }
        }
        share *= sum / 255;
      }
      values[i] = stroke.erase ? values[i] * (1 - share) : values[i] + (1 - values[i]) * share;
    }
  });
  return values;
}
