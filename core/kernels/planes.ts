import { compiled } from './compiled';

/** Filters over single planes of numbers, row by row. */

/** One number a pixel. */
export interface Plane {
  width: number;
  height: number;
  values: Float32Array;
}

export const planeOf = (width: number, height: number): Plane => ({
  width,
  height,
  values: new Float32Array(width * height),
});

/** A plane at half its size, an odd last row or column standing for itself. */
export function halvePlane({ width, height, values }: Plane): Plane {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const out = new Float32Array(half.width * half.height);
  for (let y = 0, o = 0; y < half.height; y++) {
    const above = 2 * y * width;
    const below = Math.min(height - 1, 2 * y + 1) * width;
    for (let x = 0; x < half.width; x++, o++) {
      const left = 2 * x;
      const right = Math.min(width - 1, left + 1);
      out[o] =
        (values[above + left] + values[above + right] + values[below + left] + values[below + right]) / 4;
    }
  }
  return { ...half, values: out };
}

/**
 * The mean over a square of side 2·radius + 1, cut off at the plane's edges: running sums, so for whole planes
 * only (a part of a plane would round differently).
 */
export function boxMean({ width, height, values }: Plane, radius: number): Plane {
  if (radius < 1) return { width, height, values: values.slice() };
  const { kernels, workspace } = compiled();
  const planeBytes = (values.byteLength + 79) & ~63;
  const { buffer, at } = workspace(2 * planeBytes + (width + 8) * Float64Array.BYTES_PER_ELEMENT);
  const plane = new Float32Array(buffer, at, width * height);
  plane.set(values);
  // What is read is read before what is written there.
  kernels.boxMean(at, width, height, radius, at + planeBytes, at + 2 * planeBytes, at);
  return { width, height, values: plane.slice() };
}

/** The smallest (sign 1) or largest (sign -1) value within a square of side 2·radius + 1. */
export function boxExtreme({ width, height, values }: Plane, radius: number, sign: 1 | -1): Plane {
  const across = new Float32Array(width * height);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const last = Math.min(width - 1, x + radius);
      let best = values[row + Math.max(0, x - radius)] * sign;
      for (let k = Math.max(0, x - radius) + 1; k <= last; k++) {
        const v = values[row + k] * sign;
        if (v < best) best = v;
      }
      across[row + x] = best;
    }
  }
  for (let y = 0; y < height; y++) {
    const first = Math.max(0, y - radius);
    const last = Math.min(height - 1, y + radius);
    const to = y * width;
    for (let x = 0; x < width; x++) out[to + x] = across[first * width + x];
    for (let k = first + 1; k <= last; k++) {
      const row = k * width;
      for (let x = 0; x < width; x++) if (across[row + x] < out[to + x]) out[to + x] = across[row + x];
    }
    for (let x = 0; x < width; x++) out[to + x] *= sign;
  }
  return { width, height, values: out };
}

/** The extreme along both diagonals within `radius` steps: with a square it makes an octagon. */
export function diamondExtreme({ width, height, values }: Plane, radius: number, sign: 1 | -1): Plane {
  let from = values;
  for (const slant of [1, -1]) {
    const out = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let best = from[y * width + x] * sign;
        for (let k = -radius; k <= radius; k++) {
          const py = y + k;
          const px = x + slant * k;
          if (py < 0 || py >= height || px < 0 || px >= width) continue;
          const v = from[py * width + px] * sign;
          if (v < best) best = v;
        }
        out[y * width + x] = best * sign;
      }
    }
    from = out;
  }
  return { width, height, values: from };
}

interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A plane made ready to be read a row at a time at the pixels of a part of a picture: see `readPlane`. */
export interface PlaneRows {
  /** The row read last: one number a pixel of the part. */
  row: Float32Array;
  read: (y: number) => void;
}

export function planeRows(plane: Plane, of: { width: number; height: number }, part: Part): PlaneRows {
  const { width, height, values } = plane;
  const row = new Float32Array(part.width);
  if (width === of.width && height === of.height) {
    return {
      row,
      read: y => {
        const from = (part.y + y) * width + part.x;
        row.set(values.subarray(from, from + part.width));
      },
    };
  }
  const left = new Int32Array(part.width);
  const share = new Float32Array(part.width);
  for (let x = 0; x < part.width; x++) {
    const at = Math.min(width - 1, Math.max(0, ((part.x + x + 0.5) * width) / of.width - 0.5));
    const i = Math.max(0, Math.min(width - 2, Math.floor(at)));
    left[x] = i;
    share[x] = at - i;
  }
  // One more than the plane is wide, so that a plane of one column has a neighbour as well.
  const line = new Float32Array(width + 1);
  const first = left[0];
  const last = Math.min(width - 1, left[part.width - 1] + 1);
  return {
    row,
    read: y => {
      const at = Math.min(height - 1, Math.max(0, ((part.y + y + 0.5) * height) / of.height - 0.5));
      const i = Math.max(0, Math.min(height - 2, Math.floor(at)));
      const f = at - i;
      const above = i * width;
      const below = Math.min(height - 1, i + 1) * width;
      for (let k = first; k <= last; k++) {
        line[k] = values[above + k] + (values[below + k] - values[above + k]) * f;
      }
      line[last + 1] = line[last];
      for (let x = 0; x < row.length; x++) {
        const l = left[x];
        row[x] = line[l] + (line[l + 1] - line[l]) * share[x];
      }
    },
  };
}

/**
 * Reads a plane that stands for a whole picture at the pixels of a part of it, by bilinear interpolation: a
 * pixel's value depends on where it lies in the picture alone.
 * @param of the size of the picture that the part lies in
 * @param part where the part lies, in pixels of that picture
 * @param out one number a pixel of the part
 */
export function readPlane(
  plane: Plane,
  of: { width: number; height: number },
  part: Part,
  out: Float32Array,
): void {
  const { row, read } = planeRows(plane, of, part);
  for (let y = 0; y < part.height; y++) {
    read(y);
    out.set(row, y * part.width);
  }
}

/**
 * The smallest rectangle about the cells of a grid that are asked for, and so many more on each side, within the grid; null where
 * there are none.
 */
export function boundsOf(
  width: number,
  height: number,
  isIn: (i: number) => boolean,
  more: number,
): { x: number; y: number; width: number; height: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++) {
    const row = y * width;
    // Only as far in from either side as nothing has been found yet.
    let first = 0;
    while (first < width && !isIn(row + first)) first++;
    if (first === width) continue;
    let last = width - 1;
    while (last > right && !isIn(row + last)) last--;
    if (first < left) left = first;
    if (last > right) right = last;
    if (top === height) top = y;
    bottom = y;
  }
  if (right < 0) return null;
  const x = Math.max(0, left - more);
  const y = Math.max(0, top - more);
  return {
    x,
    y,
    width: Math.min(width, right + more + 1) - x,
    height: Math.min(height, bottom + more + 1) - y,
  };
}
