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
  /** What a cell has in common with all and is held by, and one over that. */
  diagonal: number;
  inverse: number;
  x: number;
  b: number;
  rest: number;
}
const PLANES = 7;

const strideOf = (width: number) => ((width + 3) & ~3) + 2 * SIDE;
const planeLength = ({ width, height }: Bonds) => strideOf(width) * (height + 2);

/** Grids of a pyramid in the kernels' memory, and the steps of a cycle over them. All hold until the next call of a kernel elsewhere. */
class Grids {
  private readonly at: number;
  private readonly all: Float32Array;
  readonly levels: Level[] = [];
  /** Addresses of more planes of the finest grid. */
  readonly more: number[] = [];

  /** @param more how many planes more the finest grid has */
  constructor(pyramid: Pyramid, held: Float32Array, more: number) {
    const lengths = pyramid.map(planeLength);
    const total = lengths.reduce((sum, length) => sum + PLANES * length, more * lengths[0]);
    const { buffer, at } = compiled().workspace(total * FLOAT);
    this.at = at;
    this.all = new Float32Array(buffer, at, total).fill(0);
    let next = 0;
    const take = (k: number) => {
      const first = next + strideOf(pyramid[k].width) + SIDE;
      next += lengths[k];
      return at + first * FLOAT;
    };
    pyramid.forEach(({ width, height }, k) => {
      const stride = strideOf(width);
      const [right, down, diagonal, inverse, x, b, rest] = Array.from({ length: PLANES }, () => take(k));
      const size = { width, height, stride, count: stride * height };
      this.levels.push({ ...size, right, down, diagonal, inverse, x, b, rest });
    });
    for (let k = 0; k < more; k++) this.more.push(take(0));
    this.fill(pyramid, held);
  }

  private place = (address: number) => (address - this.at) / FLOAT;

  /** Writes what cells have in common, and what they are held by, which coarser ones have from the finer. */
  private fill(pyramid: Pyramid, held: Float32Array): void {
    const { kernels } = compiled();
    this.levels.forEach(({ right, down, diagonal, stride, width, height }, k) => {
      this.write(right, pyramid[k].right, k);
      this.write(down, pyramid[k].down, k);
      if (k === 0) this.write(diagonal, held);
      else {
        const finer = this.levels[k - 1];
        kernels.gather(finer.diagonal, finer.stride, diagonal, stride, width, height);
      }
    });
    for (const { right, down, diagonal, inverse, stride, width, height } of this.levels) {
      kernels.diagonals(right, down, diagonal, inverse, stride, width, height);
    }
  }

  /** Writes numbers of a grid's cells, the finest where none is said. */
  write(address: number, values: Float32Array, k = 0): void {
    const { width, height, stride } = this.levels[k];
    const start = this.place(address);
    for (let y = 0; y < height; y++) {
      this.all.set(values.subarray(y * width, (y + 1) * width), start + y * stride);
    }
  }

  read(address: number): Float32Array {
    const [{ width, height, stride }] = this.levels;
    const start = this.place(address);
    const out = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      out.set(this.all.subarray(start + y * stride, start + y * stride + width), y * width);
    }
    return out;
  }

  clear(address: number, count: number): void {
    this.all.fill(0, this.place(address), this.place(address) + count);
  }

  copy(to: number, from: number, count: number): void {
    this.all.copyWithin(this.place(to), this.place(from), this.place(from) + count);
  }

  /** out = b - A x. */
  rest({ right, down, diagonal, stride, width, height }: Level, x: number, b: number, out: number): void {
    compiled().kernels.spreadRest(x, right, down, diagonal, b, out, stride, width, height);
  }

  /** About A⁻¹ b of a level, into its x. */
  cycle(k: number): void {
    const { kernels } = compiled();
    const level = this.levels[k];
    const below = this.levels[k + 1] as Level | undefined;
    kernels.products(level.inverse, level.b, level.x, FAR, level.count);
    for (let i = 1; i < (below ? STEPS : COARSEST_STEPS); i++) this.step(level);
    if (!below) return;
    this.rest(level, level.x, level.b, level.rest);
    kernels.gather(level.rest, level.stride, below.b, below.stride, below.width, below.height);
    this.cycle(k + 1);
    kernels.scatter(level.x, level.stride, below.x, below.stride, below.width, below.height, LONGER);
    this.clearMargins(level);
    for (let i = 0; i < STEPS; i++) this.step(level);
  }

  /** Every cell goes towards what its neighbours say. */
  private step(level: Level): void {
    const { x, right, down, diagonal, inverse, b, rest, stride, width, height } = level;
    compiled().kernels.spreadStep(x, right, down, diagonal, inverse, b, rest, FAR, stride, width, height);
    level.x = rest;
    level.rest = x;
  }

  /** Where a grid is odd its last coarse cells reach beyond it: what they gave there is nothing. */
  private clearMargins({ x, width, height, stride }: Level): void {
    const start = this.place(x);
    if (height & 1) this.all.fill(0, start + height * stride, start + (height + 1) * stride - SIDE);
    if (width & 1) for (let y = 0; y < height; y++) this.all[start + y * stride + width] = 0;
  }
}

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
  const { kernels } = compiled();
  const grids = new Grids(pyramid, held, 3);
  const [fine] = grids.levels;
  const { count } = fine;
  const [x, p, q] = grids.more;
  // What is left to be answered; its answer is the finest grid's x.
  const r = fine.b;
  grids.write(x, from);
  grids.write(fine.rest, held);
  grids.write(fine.b, targets);
  kernels.products(fine.rest, fine.b, q, 1, count);
  grids.rest(fine, x, q, r);
  grids.cycle(0);
  grids.copy(p, fine.x, count);
  let rz = kernels.sumOfProducts(r, fine.x, count);
  const off = () => Math.sqrt(kernels.weightedSquares(r, fine.inverse, count) / targets.length);
  for (let round = 0; round < most && off() > tolerance; round++) {
    // -A p, as what is left of nothing.
    grids.clear(q, count);
    grids.rest(fine, p, q, fine.rest);
    const alpha = -rz / kernels.sumOfProducts(p, fine.rest, count);
    kernels.addScaled(x, p, alpha, count);
    kernels.addScaled(r, fine.rest, alpha, count);
    grids.cycle(0);
    const next = kernels.sumOfProducts(r, fine.x, count);
    kernels.addTo(p, fine.x, next / rz, count);
    rz = next;
  }
  return grids.read(x);
}
