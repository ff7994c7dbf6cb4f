import { CHUNK, compiled, inChunks } from './compiled';

/**
 * Grain: gradient noise by a hash of position and seed, with no state, the same in every tile.
 * Source: K. Perlin, "Improving Noise", SIGGRAPH 2002 (fade curve, diagonal gradients); the hash is the
 * finaliser of MurmurHash3 (A. Appleby, public domain).
 */

export interface GrainShape {
  /** Width of a grain, as a fraction of the photograph's long edge. */
  cell: number;
  /** Share of an octave of half the width. */
  finer: number;
  /** How unevenly it is strewn, 0..1. */
  clumping: number;
  seed: number;
}

interface GrainRegion {
  x: number;
  y: number;
  width: number;
  height: number;
  scale: { longEdge: number; photograph: { width: number; height: number }; straight: boolean };
  placeOf: (x: number, y: number, out: Float64Array) => void;
}

/** How wide clumps are, in grains. */
const CLUMP = 7;

/** The second octave: so much finer, and so far aside, that the two never meet. */
const FINER = 2.03;
const ASIDE = [7.7, 3.1] as const;

/** Beyond so many grains a pixel there are more places on the lattices than pixels: then each is hashed by itself. */
const MOST_GRAINS = 0.8;

/** Weights of the octaves, and their seeds. */
function octaves({ cell, finer, clumping, seed: from }: GrainShape, longEdge: number) {
  // How much of the noise is left when it is averaged over a pixel: all while pixels are small beside grains.
  const pixel = 1 / (longEdge * cell);
  const weaker = (size: number) => 1 / (1 + 0.6 * size * size);
  const seed = Math.imul(from + 1, 0x9e3779b1);
  return {
    first: weaker(pixel),
    second: finer * weaker(pixel * 2),
    clumping: 1.6 * clumping,
    seeds: [seed, ~seed, seed ^ 0x5bd1e995],
  };
}

/** Where grains lie along rows, where places follow from pixels by straight lines: in grains. */
interface Straight {
  /** Of the first pixel's middle. */
  origin: readonly number[];
  /** What a pixel to the right adds, and one down. */
  right: readonly number[];
  down: readonly number[];
}

type Grains = ReturnType<typeof octaves>;

/** One chunk of a row: `from` in pixels of the picture. */
type Row = (from: number, y: number, count: number, out: number) => void;

const FLOATS = Float64Array.BYTES_PER_ELEMENT;

/** A row that runs along an axis of the photograph: a lattice's columns are made once for it, and read at each pixel. */
function alongAxis({ origin, right, down }: Straight, axis: 0 | 1, grains: Grains): Row {
  const { kernels, workspace } = compiled();
  const other = axis === 0 ? 1 : 0;
  const step = right[axis];
  const steps = [1, FINER, 1 / CLUMP].map(finer => Math.abs(step) * finer);
  const rooms = steps.map(each => Math.ceil(each * CHUNK + 8) * 2 * Float32Array.BYTES_PER_ELEMENT);
  return (from, y, count, out) => {
    const placeBytes = CHUNK * FLOATS;
    const { at } = workspace(rooms.reduce((sum, bytes) => sum + bytes, placeBytes));
    const start = origin[axis] + y * down[axis];
    kernels.along(at, count, from, start, step);
    const across = origin[other] + y * down[other];
    let room = at + placeBytes;
    const lattices = [
      [start, across, 1, 0, 0],
      [start, across, FINER, ASIDE[axis], ASIDE[other]],
      [start, across, 1 / CLUMP, 0, 0],
    ].map(([place, side, finer, aside, asideAcross], k) => {
      const ends = [from, from + count - 1].map(x => Math.floor((place + x * step) * finer + aside));
      const first = Math.min(...ends) - 1;
      const columns = Math.max(...ends) - first + 3;
      const row = side * finer + asideAcross;
      const above = Math.floor(row);
      kernels.columns(first, columns, above, row - above, grains.seeds[k], axis, room);
      const made = [room, first];
      room += rooms[k];
      return made;
    });
    const { first, second, clumping } = grains;
    kernels.strewn(at, count, ...lattices.flat(), ASIDE[axis], first, second, clumping, CLUMP, out);
  };
}

/** A row whose places are written by `place` into two rooms, for each to be hashed by itself. */
function anywhere(
  grains: Grains,
  place: (
    from: number,
    y: number,
    count: number,
    rooms: readonly [x: number, y: number],
    buffer: ArrayBuffer,
  ) => void,
): Row {
  const { kernels, workspace } = compiled();
  const { first, second, clumping, seeds } = grains;
  return (from, y, count, out) => {
    const { buffer, at } = workspace(2 * CHUNK * FLOATS);
    const below = at + CHUNK * FLOATS;
    place(from, y, count, [at, below], buffer);
    kernels.grains(at, below, count, first, second, clumping, CLUMP, seeds[0], out);
  };
}

/** The grain of each pixel of a region, mean 0: what is added to a middle grey at depth 1. */
export function grainPlane(region: GrainRegion, shape: GrainShape): Float32Array {
  const { x: left, y: top, width, height, scale, placeOf } = region;
  const { longEdge, photograph } = scale;
  const { kernels, greys } = compiled();
  const grains = octaves(shape, longEdge);
  const place = new Float64Array(2);
  const toGrains = [photograph.width, photograph.height].map(side => side / longEdge / shape.cell);
  const grainsAt = (x: number, y: number) => {
    placeOf(x + 0.5, y + 0.5, place);
    return [place[0] * toGrains[0], place[1] * toGrains[1]];
  };
  const origin = grainsAt(0, 0);
  const less = (at: number[]) => at.map((v, k) => v - origin[k]);
  const straight: Straight = { origin, right: less(grainsAt(1, 0)), down: less(grainsAt(0, 1)) };
  const { right, down } = straight;
  const axis = right[1] === 0 ? 0 : right[0] === 0 ? 1 : null;
  let row: Row;
  if (!scale.straight) {
    row = anywhere(grains, (from, y, count, rooms, buffer) => {
      const [xs, ys] = rooms.map(room => new Float64Array(buffer, room, count));
      for (let i = 0; i < count; i++) [xs[i], ys[i]] = grainsAt(from + i, y);
    });
  } else if (axis === null || Math.abs(right[axis]) > MOST_GRAINS) {
    row = anywhere(grains, (from, y, count, rooms) => {
      rooms.forEach((room, k) => kernels.along(room, count, from, origin[k] + y * down[k], right[k]));
    });
  } else row = alongAxis(straight, axis, grains);

  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    inChunks(width, (x, count) => {
      row(left + x, top + y, count, greys.at);
      out.set(greys.view.subarray(0, count), y * width + x);
    });
  }
  return out;
}

/** Adds grain to encoded RGB: strongest in the midtones, none at black and white. `out` may be `rgb`. */
export function addGrain(rgb: Float32Array, out: Float32Array, grains: Float32Array, depth: number): void {
  const { kernels, colours, greys } = compiled();
  inChunks(grains.length, (from, n) => {
    colours.view.set(rgb.subarray(from * 3, (from + n) * 3));
    greys.view.set(grains.subarray(from, from + n));
    kernels.addGrain(colours.at, greys.at, n, depth);
    out.set(colours.view.subarray(0, n * 3), from * 3);
  });
}
