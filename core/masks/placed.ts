import type { Geometry } from '../frame/geometry';
import { join, relattice, type Lattice } from '../kernels/dabs';
import type { Laying } from './define';
import type { StrokeMemory } from './laid-strokes';
import { byId, type Mask } from './mask';
import { kindOfPart, type MaskPart } from './parts';
import { deviation, shapedPart } from './shaping';

/** Masks that are functions of place alone: strokes, shapes, pictures, and masks made of them. */

/** Cells of a lattice that a blur's deviation, or a growth, spans at least: finer would only cost time. */
const BLUR_CELLS = 4;
const GROW_CELLS = 16;

function layPart(part: MaskPart, on: Laying): Float32Array {
  const kind = kindOfPart(part);
  if (kind.reads !== 'place') throw new RangeError(`a part of ${part.kind} is not a function of place`);
  return kind.lay(part, on);
}

const nameOf = ({ cell, x, y, width, height }: Lattice) => `${cell} ${x} ${y} ${width} ${height}`;

/**
 * A mask that is a function of place alone, on a lattice. Each mask that it stands on is made once, however often it is
 * used.
 * @param memory of strokes, where the same are asked for again and again
 */
export function placedOn(
  mask: Mask,
  masks: readonly Mask[],
  lattice: Lattice,
  geometry: Geometry,
  bleed: number,
  memory?: StrokeMemory,
): Float32Array {
  const made = new Map<string, Float32Array>();
  const { photograph, longEdge } = geometry;

  const on = (each: Mask, lattice: Lattice, bleed: number): Float32Array => {
    const grow = each.grow * longEdge;
    const sigma = deviation(each.feather, bleed, longEdge);
    let cell = lattice.cell;
    // A coarser lattice only where softness hides it, or a growth is so wide that its edge may be a little soft.
    const coarsest = sigma > 0 ? sigma / BLUR_CELLS : Math.abs(grow) / GROW_CELLS;
    while (cell * 2 <= coarsest) cell *= 2;
    const ratio = cell / lattice.cell;
    const more = sigma > 0 || grow !== 0 ? Math.ceil((3 * sigma + Math.abs(grow)) / cell) + 4 : 0;
    const x = Math.floor(lattice.x / ratio) - more - (ratio > 1 ? 1 : 0);
    const y = Math.floor(lattice.y / ratio) - more - (ratio > 1 ? 1 : 0);
    const wide: Lattice = {
      cell,
      x,
      y,
      width: Math.ceil((lattice.x + lattice.width) / ratio) + more + (ratio > 1 ? 1 : 0) - x,
      height: Math.ceil((lattice.y + lattice.height) / ratio) + more + (ratio > 1 ? 1 : 0) - y,
    };
    const maskOn = (id: string): Float32Array => {
      const key = `${id} ${nameOf(wide)}`;
      const known = made.get(key) ?? on(byId(masks, id), wide, 0);
      made.set(key, known);
      return known;
    };
    const laying = { lattice: wide, photograph, longEdge, memory, maskOn };
    const [opening] = each.parts;
    let values: Float32Array;
    if (opening?.op === 'add') values = layPart(opening, laying);
    else values = new Float32Array(wide.width * wide.height).fill(opening?.op === 'subtract' ? 1 : 0);
    for (const part of opening?.op === 'add' ? each.parts.slice(1) : each.parts) {
      join(values, layPart(part, laying), part.op);
    }
    if (sigma > 0 || grow !== 0) values = shapedPart(values, wide, grow, sigma);
    if (each.invert) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
    if (wide.width === lattice.width && wide.height === lattice.height && ratio === 1) return values;
    return relattice(values, wide, lattice);
  };
  return on(mask, lattice, bleed);
}
