/** Strokes and shapes as coverage on a lattice: numbers 0..1, row by row. */

/** A lattice over the photograph: cells of `cell` pixels a side, this part of it. */
export interface Lattice {
  /** First cell. */
  x: number;
  y: number;
  /** Cells. */
  width: number;
  height: number;
  /** Photograph pixels a cell. */
  cell: number;
}

/** The soft edge of a dab is never narrower than this many cells, so that hard edges are smooth. */
const EDGE = 1;

/**
 * Lays one dab: coverage grows towards 1 by alpha inside the hard core, less and less towards the radius
 * (a smooth fall); erasing, it shrinks towards 0.
 * @param x of the middle, in photograph pixels
 * @param radius in photograph pixels
 */
export function dab(
  coverage: Float32Array,
  lattice: Lattice,
  x: number,
  y: number,
  radius: number,
  hardness: number,
  alpha: number,
  erase: boolean,
): void {
  const { cell } = lattice;
  const reach = Math.max(radius / cell, 0.5);
  // Distances are taken from whole cells of the photograph, so that every part gets the same numbers.
  const middleX = x / cell - 0.5;
  const middleY = y / cell - 0.5;
  const core = Math.min(reach * hardness, reach - EDGE / 2);
  const outer = Math.max(reach, core + EDGE);
  const left = Math.max(lattice.x, Math.ceil(middleX - outer));
  const right = Math.min(lattice.x + lattice.width - 1, Math.floor(middleX + outer));
  const top = Math.max(lattice.y, Math.ceil(middleY - outer));
  const bottom = Math.min(lattice.y + lattice.height - 1, Math.floor(middleY + outer));
  const outerSquare = outer * outer;
  const coreSquare = core > 0 ? core * core : 0;
  const fall = 1 / (outer - core);
  for (let j = top; j <= bottom; j++) {
    const dy = j - middleY;
    const row = (j - lattice.y) * lattice.width - lattice.x;
    for (let i = left; i <= right; i++) {
      const dx = i - middleX;
      const square = dx * dx + dy * dy;
      if (square >= outerSquare) continue;
      let a = alpha;
      if (square > coreSquare) {
        const t = (outer - Math.sqrt(square)) * fall;
        if (t < 1) a *= t * t * (3 - 2 * t);
      }
      const v = coverage[row + i];
      coverage[row + i] = erase ? v * (1 - a) : v + (1 - v) * a;
    }
  }
}

/** A straight gradient: 1 up to `from`, smoothly down to 0 at `to`; photograph pixels. */
export function linear(
  coverage: Float32Array,
  lattice: Lattice,
  [fromX, fromY]: readonly [number, number],
  [toX, toY]: readonly [number, number],
  softness: number,
): void {
  const dx = toX - fromX;
  const dy = toY - fromY;
  const square = dx * dx + dy * dy;
  // At least one cell wide, so that a hard edge is smooth.
  const soft = Math.max(softness, square > 0 ? lattice.cell / Math.sqrt(square) : 1);
  for (let j = 0, o = 0; j < lattice.height; j++) {
    const y = (lattice.y + j + 0.5) * lattice.cell - fromY;
    for (let i = 0; i < lattice.width; i++, o++) {
      const x = (lattice.x + i + 0.5) * lattice.cell - fromX;
      let t = square > 0 ? 1 - (x * dx + y * dy) / square : 0;
      if (soft < 1) t = (t - 0.5) / soft + 0.5;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      coverage[o] = t * t * (3 - 2 * t);
    }
  }
}

/**
 * An oval: 1 inside, 0 beyond its outline, the fall lying inside over `feather` of the radius.
 * @param radii photograph pixels
 * @param angle radians, clockwise
 */
export function oval(
  coverage: Float32Array,
  lattice: Lattice,
  [centreX, centreY]: readonly [number, number],
  radii: readonly [number, number],
  angle: number,
  feather: number,
): void {
  const { cell } = lattice;
  const radiusX = Math.max(radii[0], cell / 2);
  const radiusY = Math.max(radii[1], cell / 2);
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  // At least one cell wide, so that a hard outline is smooth.
  const soft = Math.max(feather, cell / Math.min(radiusX, radiusY));
  // Inside of it coverage is whole; a little less, so that no rounding shows.
  const core = soft < 1 ? (1 - soft) ** 2 * 0.999 : 0;
  for (let j = 0, o = 0; j < lattice.height; j++) {
    const y = (lattice.y + j + 0.5) * cell - centreY;
    for (let i = 0; i < lattice.width; i++, o++) {
      const x = (lattice.x + i + 0.5) * cell - centreX;
      const u = (cos * x + sin * y) / radiusX;
      const v = (cos * y - sin * x) / radiusY;
      const square = u * u + v * v;
      if (square >= 1) {
        coverage[o] = 0;
        continue;
      }
      if (square <= core) {
        coverage[o] = 1;
        continue;
      }
      const t = (1 - Math.sqrt(square)) / soft;
      coverage[o] = t < 1 ? t * t * (3 - 2 * t) : 1;
    }
  }
}

/** A grey picture that covers the whole photograph, read by bilinear interpolation. */
export function spread(
  coverage: Float32Array,
  lattice: Lattice,
  picture: { width: number; height: number; values: Uint8Array | Uint16Array; most: number },
  photograph: { width: number; height: number },
): void {
  const { width, height, values, most } = picture;
  for (let j = 0, o = 0; j < lattice.height; j++) {
    let y = (((lattice.y + j + 0.5) * lattice.cell) / photograph.height) * height - 0.5;
    y = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
    const top = Math.min(Math.floor(y), Math.max(0, height - 2));
    const below = Math.min(height - 1, top + 1);
    const g = y - top;
    for (let i = 0; i < lattice.width; i++, o++) {
      let x = (((lattice.x + i + 0.5) * lattice.cell) / photograph.width) * width - 0.5;
      x = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
      const left = Math.min(Math.floor(x), Math.max(0, width - 2));
      const beside = Math.min(width - 1, left + 1);
      const f = x - left;
      const a = values[top * width + left] * (1 - f) + values[top * width + beside] * f;
      const b = values[below * width + left] * (1 - f) + values[below * width + beside] * f;
      coverage[o] = (a * (1 - g) + b * g) / most;
    }
  }
}

/** Joins a part to what is there: add takes the larger, subtract takes away, intersect takes the smaller. */
export function join(coverage: Float32Array, part: Float32Array, op: 'add' | 'subtract' | 'intersect'): void {
  const { length } = coverage;
  if (op === 'add') {
    for (let i = 0; i < length; i++) if (part[i] > coverage[i]) coverage[i] = part[i];
  } else if (op === 'subtract') {
    for (let i = 0; i < length; i++) {
      const left = coverage[i] - part[i];
      coverage[i] = left > 0 ? left : 0;
    }
  } else {
    for (let i = 0; i < length; i++) if (part[i] < coverage[i]) coverage[i] = part[i];
  }
}

/** Where the middles of cells lie among those of another lattice, along an axis: the one before, and the share of the way on. */
function alongAxis(
  from: number,
  count: number,
  cell: number,
  of: { from: number; count: number; cell: number },
) {
  const first = new Int32Array(count);
  const share = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const at = ((from + i + 0.5) * cell) / of.cell - 0.5;
    const whole = Math.floor(at);
    const inside = whole - of.from;
    first[i] = Math.max(0, Math.min(of.count - 1, inside));
    share[i] = first[i] === inside ? at - whole : 0;
  }
  return { first, share };
}

/** Reads a lattice at the cells of another one, by bilinear interpolation: the same numbers for a cell in any part. */
export function relattice(coverage: Float32Array, lattice: Lattice, to: Lattice): Float32Array {
  const { width, height } = lattice;
  const across = alongAxis(to.x, to.width, to.cell, { from: lattice.x, count: width, cell: lattice.cell });
  const down = alongAxis(to.y, to.height, to.cell, { from: lattice.y, count: height, cell: lattice.cell });
  const out = new Float32Array(to.width * to.height);
  // One more, so that the last has a neighbour.
  const line = new Float32Array(width + 1);
  const { first, share } = across;
  for (let j = 0, o = 0; j < to.height; j++) {
    const above = down.first[j] * width;
    const below = Math.min(height - 1, down.first[j] + 1) * width;
    const g = down.share[j];
    for (let i = 0; i < width; i++) {
      const a = coverage[above + i];
      line[i] = a + (coverage[below + i] - a) * g;
    }
    line[width] = line[width - 1];
    for (let i = 0; i < to.width; i++, o++) {
      const at = first[i];
      const a = line[at];
      out[o] = a + (line[at + 1] - a) * share[i];
    }
  }
  return out;
}

/** Reads a lattice at the pixels of a framed region, by bilinear interpolation. */
export function readLattice(
  coverage: Float32Array,
  lattice: Lattice,
  region: { x: number; y: number; width: number; height: number },
  toPhotograph: (x: number, y: number, out: Float64Array) => void,
  out: Float32Array,
): void {
  const { width, height, cell } = lattice;
  const at = new Float64Array(2);
  for (let j = 0, o = 0; j < region.height; j++) {
    for (let i = 0; i < region.width; i++, o++) {
      toPhotograph(region.x + i + 0.5, region.y + j + 0.5, at);
      const x = at[0] / cell - 0.5;
      const y = at[1] / cell - 0.5;
      let left = Math.floor(x);
      let top = Math.floor(y);
      const f = x - left;
      const g = y - top;
      left -= lattice.x;
      top -= lattice.y;
      left = left < 0 ? 0 : left >= width ? width - 1 : left;
      top = top < 0 ? 0 : top >= height ? height - 1 : top;
      const p = top * width + left;
      if (f === 0 && g === 0) {
        out[o] = coverage[p];
        continue;
      }
      const right = left + 1 < width ? 1 : 0;
      const down = top + 1 < height ? width : 0;
      const a = coverage[p] * (1 - f) + coverage[p + right] * f;
      const b = coverage[p + down] * (1 - f) + coverage[p + down + right] * f;
      out[o] = a * (1 - g) + b * g;
    }
  }
}
