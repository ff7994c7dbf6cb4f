import type { Geometry } from '../frame/geometry';
import { join, linear, oval, readLattice, spread, type Lattice } from '../kernels/dabs';
import type { Mask, MaskPart } from './schema';
import { readGreyPng } from './grey-png';
import { byId } from './named';
import { deviation, shapedPart } from './shaping';
import { laidStrokes, type StrokeMemory } from './laid-strokes';
import { layStrokes } from './strokes';

/** Masks that are functions of place alone: strokes, shapes, pictures, and masks made of them. */

type Placed = Extract<MaskPart, { kind: 'brush' | 'linear' | 'oval' | 'whole' | 'picture' | 'mask' }>;

/** Cells of a lattice that a blur's deviation, or a growth, spans at least: finer would only cost time. */
const BLUR_CELLS = 4;
const GROW_CELLS = 16;

/**
 * A mask that is a function of place alone, on a lattice.
 * @param memory of strokes, where the same are asked for again and again
 */
export function placedOn(
  mask: Mask,
  masks: readonly Mask[],
  lattice: Lattice,
  geometry: Geometry,
  bleed: number,
  memory?: StrokeMemory,
) {
  const { longEdge } = geometry;
  const grow = mask.grow * longEdge;
  const sigma = deviation(mask.feather, bleed, longEdge);
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
  let values: Float32Array = new Float32Array(wide.width * wide.height);
  const first = mask.parts[0];
  if (first?.op === 'subtract') values.fill(1);
  for (const part of mask.parts) {
    const covered = placedPart(part as Placed, masks, wide, geometry, memory);
    join(values, covered, part.op);
  }
  if (sigma > 0 || grow !== 0) values = shapedPart(values, wide, grow, sigma);
  if (mask.invert) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
  if (wide.width === lattice.width && wide.height === lattice.height && ratio === 1) return values;
  const out = new Float32Array(lattice.width * lattice.height);
  // From lattice to lattice, cell middles in photograph pixels.
  readLattice(
    values,
    wide,
    lattice,
    (px, py, at) => {
      at[0] = px * lattice.cell;
      at[1] = py * lattice.cell;
    },
    out,
  );
  return out;
}

function placedPart(
  part: Placed,
  masks: readonly Mask[],
  lattice: Lattice,
  geometry: Geometry,
  memory?: StrokeMemory,
): Float32Array {
  const { photograph, longEdge } = geometry;
  const values = new Float32Array(lattice.width * lattice.height);
  const pixels = ([x, y]: readonly [number, number]): [number, number] => [
    x * photograph.width,
    y * photograph.height,
  ];
  switch (part.kind) {
    case 'brush':
      if (memory) return laidStrokes(part.strokes, lattice, photograph, memory);
      layStrokes(values, lattice, part.strokes, photograph);
      break;
    case 'linear':
      linear(values, lattice, pixels(part.from), pixels(part.to));
      break;
    case 'oval':
      oval(
        values,
        lattice,
        pixels(part.centre),
        [part.radii[0] * longEdge, part.radii[1] * longEdge],
        (part.angle * Math.PI) / 180,
        part.feather,
      );
      if (part.outside) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i];
      break;
    case 'whole':
      values.fill(1);
      break;
    case 'picture':
      spread(values, lattice, readGreyPng(part.png), photograph);
      break;
    case 'mask':
      return placedOn(byId(masks, part.mask), masks, lattice, geometry, 0, memory);
  }
  return values;
}
