import { compiled } from './compiled';

/**
 * Values that spread over a grid from where they are known, softly where neighbours are alike and hardly at all over edges: the
 * minimum of Σ w (xᵢ - xⱼ)² over neighbours + Σ d (xᵢ - tᵢ)². It is the random walker with priors: L. Grady, "Random Walks for
 * Image Segmentation", IEEE TPAMI 28, 2006, and "Multilabel Random Walker Image Segmentation Using Prior Models", CVPR 2005.
 * Solved by conjugate gradients, with a cycle over coarser grids (2 by 2 cells put together) as the preconditioner: O. Tatebe, "The
 * multigrid preconditioned conjugate gradient method", 1993.
 */

/** What cells have in common, row by row. */
export interface Bonds {
  width: number;
  height: number;
  /** Each cell with the next in its row; of the last in a row 0. */
  right: Float32Array;
  /** With the one below; of the last row 0. */
  down: Float32Array;
}

/** Grids of fewer cells than this are not put together further. */
const COARSEST = 32;
/** Steps towards what neighbours say, before and after a coarser grid has been asked; on the coarsest; and how far each goes. */
const STEPS = 2;
const COARSEST_STEPS = 24;
const FAR = 0.8;
/** Cells put together answer too little: D. Braess, "Towards Algebraic Multigrid for Elliptic Problems", Computing 55, 1995. */
const LONGER = 1.7;

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
/** Numbers before the first cell of a row, and after the last. */
const SIDE = 4;

/** The same with 2 by 2 cells put together. */
function coarser({ width, height, right, down }: Bonds): Bonds {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const out = { width: w, height: h, right: new Float32Array(w * h), down: new Float32Array(w * h) };
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> 1) * w;
    for (let x = 0; x < width; x++, i++) {
      const at = row + (x >> 1);
      if (x & 1) out.right[at] += right[i];
      if (y & 1) out.down[at] += down[i];
    }
  }
  return out;
}

/** How much the cells of a coarser grid are held. */
function heldBy(held: Float32Array, { width, height }: Bonds): Float32Array {
  const w = (width + 1) >> 1;
  const out = new Float32Array(w * ((height + 1) >> 1));
  for (let y = 0, i = 0; y < height; y++) {
    const row = (y >> 1) * w;
    for (let x = 0; x < width; x++, i++) out[row + (x >> 1)] += held[i];
  }
  return out;
}

/** Bonds of a grid and of its coarser ones: made once for all that is solved on it. */
export type Pyramid = readonly Bonds[];

export function pyramidOf(bonds: Bonds): Pyramid {
  const grids = [bonds];
  for (let last = bonds; last.width * last.height > COARSEST; last = grids.at(-1)!) grids.push(coarser(last));
  return grids;
}

/** A grid in the kernels' memory: addresses of its planes' first cells. */
interface Level {
  width: number;
  height: number;
  stride: number;
  /** Numbers of a plane, without the row above and below. */
  count: number;
  right: number;
  down: number;
  diagonal: number;
  inverse: number;
  ones: number;
  x: number;
  b: number;
  rest: number;
}
const PLANES = 8;

const strideOf = (width: number) => ((width + 3) & ~3) + 2 * SIDE;
const planeLength = (width: number, height: number) => strideOf(width) * (height + 2);

/**
 * Solves for targets.
 * @param held how much each cell is held at its target; something must be held
 * @param targets what each cell is held at, as far as it is
 * @param from where to begin
 * @param tolerance how far cells may be from what their neighbours say, as a root mean square
 */
export function solveSpread(
  pyramid: Pyramid,
  held: Float32Array,
  targets: Float32Array,
  from: Float32Array,
  { tolerance = 5e-4, most = 40 }: { tolerance?: number; most?: number } = {},
): Float32Array {
  const { kernels, workspace } = compiled();
  const helds = [held];
  for (const grid of pyramid.slice(0, -1)) helds.push(heldBy(helds.at(-1)!, grid));
  const lengths = pyramid.map(({ width, height }) => planeLength(width, height));
  const extra = 3 * lengths[0];
  const total = lengths.reduce((sum, length) => sum + PLANES * length, extra);
  const { buffer, at } = workspace(total * FLOAT);
  const all = new Float32Array(buffer, at, total);
  all.fill(0);

  let next = 0;
  const levels = pyramid.map(({ width, height, right, down }, k): Level => {
    const holds = helds[k];
    const stride = strideOf(width);
    const first = stride + SIDE;
    const planes = Array.from({ length: PLANES }, (_, p) => next + p * lengths[k]);
    next += PLANES * lengths[k];
    const [r, d, diagonal, inverse, ones] = planes.map(p => p + first);
    for (let y = 0, i = 0; y < height; y++) {
      for (let x = 0, o = y * stride; x < width; x++, i++, o++) {
        all[r + o] = right[i];
        all[d + o] = down[i];
        const sum = holds[i] + right[i] + down[i] + all[r + o - 1] + all[d + o - stride];
        all[diagonal + o] = sum;
        all[inverse + o] = sum > 0 ? 1 / sum : 0;
        all[ones + o] = 1;
      }
    }
    const address = planes.map(p => at + (p + first) * FLOAT);
    const [rightAt, downAt, diagonalAt, inverseAt, onesAt, x, b, rest] = address;
    const level = { width, height, stride, count: stride * height, right: rightAt, down: downAt };
    return { ...level, diagonal: diagonalAt, inverse: inverseAt, ones: onesAt, x, b, rest };
  });
  const [fine] = levels;
  const { stride, width, height, count } = fine;
  const first = stride + SIDE;
  const [x, p, q] = [0, 1, 2].map(k => at + (next + k * lengths[0] + first) * FLOAT);

  const restOf = (level: Level, of: number, b: number, out: number) =>
    kernels.spreadRest(
      of,
      level.right,
      level.down,
      level.diagonal,
      b,
      out,
      level.stride,
      level.width,
      level.height,
    );
  const step = (level: Level) => {
    restOf(level, level.x, level.b, level.rest);
    kernels.addProduct(level.x, level.inverse, level.rest, FAR, level.count);
  };
  /** About A⁻¹ b, into x of a level. */
  const cycle = (k: number): void => {
    const level = levels[k];
    const start = (level.x - at) / FLOAT;
    all.fill(0, start, start + level.count);
    kernels.addProduct(level.x, level.inverse, level.b, FAR, level.count);
    const deepest = k === levels.length - 1;
    for (let i = 1; i < (deepest ? COARSEST_STEPS : STEPS); i++) step(level);
    if (deepest) return;
    restOf(level, level.x, level.b, level.rest);
    const below = levels[k + 1];
    kernels.gather(level.rest, level.stride, below.b, below.stride, below.width, below.height);
    cycle(k + 1);
    kernels.scatter(level.x, level.stride, below.x, below.stride, below.width, below.height, LONGER);
    clearMargins(level);
    for (let i = 0; i < STEPS; i++) step(level);
  };
  /** Where a grid is odd its last coarse cells reach beyond it: what they gave there is nothing. */
  const clearMargins = (level: Level) => {
    const start = (level.x - at) / FLOAT;
    if (level.height & 1)
      all.fill(0, start + level.height * level.stride, start + (level.height + 1) * level.stride - SIDE);
    if (level.width & 1) {
      for (let y = 0; y < level.height; y++) all[start + y * level.stride + level.width] = 0;
    }
  };

  const atCells = (address: number, values: Float32Array, times?: Float32Array) => {
    const start = (address - at) / FLOAT;
    for (let y = 0, i = 0; y < height; y++) {
      for (let c = 0, o = start + y * stride; c < width; c++, i++, o++) {
        all[o] = times ? values[i] * times[i] : values[i];
      }
    }
  };
  const r = fine.b;
  atCells(x, from);
  atCells(q, targets, held);
  restOf(fine, x, q, r);
  cycle(0);
  const z = fine.x;
  all.copyWithin((p - at) / FLOAT, (z - at) / FLOAT, (z - at) / FLOAT + count);
  let rz = kernels.sumOfProducts(r, z, fine.ones, count);
  /** How far cells are from what their neighbours say, about. */
  const off = () => {
    return Math.sqrt(kernels.sumOfProducts(r, r, fine.inverse, count) / (width * height));
  };
  const zero = (q - at) / FLOAT;
  for (let round = 0; round < most && off() > tolerance; round++) {
    // q = A p, as what is left of nothing, turned about.
    all.fill(0, zero, zero + count);
    restOf(fine, p, q, fine.rest);
    const pq = -kernels.sumOfProducts(p, fine.rest, fine.ones, count);
    const alpha = rz / pq;
    kernels.addScaled(x, p, alpha, count);
    kernels.addScaled(r, fine.rest, alpha, count);
    cycle(0);
    const rz2 = kernels.sumOfProducts(r, z, fine.ones, count);
    kernels.addTo(p, z, rz2 / rz, count);
    rz = rz2;
  }
  const out = new Float32Array(width * height);
  const start = (x - at) / FLOAT;
  for (let y = 0; y < height; y++) {
    out.set(all.subarray(start + y * stride, start + y * stride + width), y * width);
  }
  return out;
}
