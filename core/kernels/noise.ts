import { compiled, inChunks } from './compiled';

/**
 * Gradient noise by a hash of position and seed: no state, the same in every tile.
 * Source: K. Perlin, "Improving Noise", SIGGRAPH 2002 (fade curve, diagonal gradients); the hash is the
 * finaliser of MurmurHash3 (A. Appleby, public domain).
 */

function hash(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ seed;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/** Eight gradients, as tables: which one comes cannot be foreseen, so no branches. */
const GX = Float64Array.of(1, 1, -1, -1, Math.SQRT2, -Math.SQRT2, 0, 0);
const GY = Float64Array.of(1, -1, 1, -1, 0, 0, Math.SQRT2, -Math.SQRT2);

/** Smooth noise with features about one unit wide, mean 0, standard deviation about 0.36. */
export function noiseAt(x: number, y: number, seed: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const u = fx * fx * fx * (fx * (fx * 6 - 15) + 10);
  const v = fy * fy * fy * (fy * (fy * 6 - 15) + 10);
  const p = hash(ix, iy, seed) & 7;
  const q = hash(ix + 1, iy, seed) & 7;
  const r = hash(ix, iy + 1, seed) & 7;
  const s = hash(ix + 1, iy + 1, seed) & 7;
  const a = GX[p] * fx + GY[p] * fy;
  const b = GX[q] * (fx - 1) + GY[q] * fy;
  const c = GX[r] * fx + GY[r] * (fy - 1);
  const d = GX[s] * (fx - 1) + GY[s] * (fy - 1);
  const top = a + u * (b - a);
  return top + v * (c + u * (d - c) - top);
}

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
  scale: { longEdge: number; photograph: { width: number; height: number } };
  placeOf: (x: number, y: number, out: Float64Array) => void;
}

/** How wide clumps are, in grains. */
const CLUMP = 7;

/** The grain of each pixel of a region, mean 0: what is added to a middle grey at depth 1. */
export function grainPlane(region: GrainRegion, shape: GrainShape): Float32Array {
  const { x: left, y: top, width, height, scale, placeOf } = region;
  const { longEdge, photograph } = scale;
  // How much of the noise is left when it is averaged over a pixel: all while pixels are small beside grains.
  const pixel = 1 / (longEdge * shape.cell);
  const weaker = (size: number) => 1 / (1 + 0.6 * size * size);
  const first = weaker(pixel);
  const second = shape.finer * weaker(pixel * 2);
  const seed = Math.imul(shape.seed + 1, 0x9e3779b1);
  const toGrainsX = photograph.width / longEdge / shape.cell;
  const toGrainsY = photograph.height / longEdge / shape.cell;
  const place = new Float64Array(2);
  const grains = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      placeOf(left + x + 0.5, top + y + 0.5, place);
      const gx = place[0] * toGrainsX;
      const gy = place[1] * toGrainsY;
      let grain = first * noiseAt(gx, gy, seed) + second * noiseAt(2.03 * gx + 7.7, 2.03 * gy + 3.1, ~seed);
      if (shape.clumping > 0) {
        grain *= 1 + 1.6 * shape.clumping * noiseAt(gx / CLUMP, gy / CLUMP, seed ^ 0x5bd1e995);
      }
      grains[i] = grain;
    }
  }
  return grains;
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
