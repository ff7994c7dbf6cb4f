import { compiled } from './compiled';
import { boxMean, type Plane } from './planes';

/**
 * A Gaussian by direct sums, edges repeated: the same numbers for a pixel whatever part of the plane it is in, as long as
 * the part reaches as far around it as the taps do. Row after row goes through a ring of rows that are blurred along
 * already, so that what is at hand stays in the processor's cache.
 */

/** The taps of a Gaussian of a standard deviation in pixels, summing to one, 3 deviations to each side. */
export function gaussianTaps(sigma: number): Float64Array {
  const radius = Math.max(1, Math.ceil(3 * sigma));
  const taps = Float64Array.from({ length: 2 * radius + 1 }, (_, i) =>
    Math.exp(-((i - radius) ** 2) / (2 * sigma * sigma)),
  );
  const sum = taps.reduce((a, b) => a + b);
  return taps.map(t => t / sum);
}

/** Below this deviation, in pixels, nothing is blurred. */
export const LEAST_SIGMA = 0.05;

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
/** Columns at a time: with those around them the ring stays small. */
const BLOCK = 2048;
const even = (bytes: number) => (bytes + 79) & ~63;

/** Room for colours of a row, as a source of lines or a target of them may need it. */
export interface RowRoom {
  view: Float32Array;
  at: number;
}

/**
 * Blurs a plane that comes and goes row by row.
 * @param sigma in pixels, more than `LEAST_SIGMA`
 * @param feed writes `count` numbers of row y from column x on to an address; `room` is for three numbers each
 * @param give gets the address of the blurred numbers of row y, `count` from column x on
 */
export function blurInRows(
  width: number,
  height: number,
  sigma: number,
  feed: (y: number, x: number, count: number, to: number, room: RowRoom) => void,
  give: (y: number, x: number, count: number, from: number, room: RowRoom) => void,
): void {
  const { kernels, workspace } = compiled();
  const all = gaussianTaps(sigma);
  const radius = (all.length - 1) / 2;
  const slots = 2 * radius + 1;
  const block = Math.min(BLOCK, width);
  const tapBytes = even((radius + 1) * FLOAT);
  const rowBytes = even(block * FLOAT);
  const lineBytes = even((block + 2 * radius + 8) * FLOAT);
  const roomBytes = even((block + 2 * radius) * 3 * FLOAT);
  const pointerBytes = even(slots * FLOAT);
  const { buffer, at } = workspace(tapBytes + pointerBytes + lineBytes + roomBytes + rowBytes * (slots + 1));
  const pointersAt = at + tapBytes;
  const lineAt = pointersAt + pointerBytes;
  const roomAt = lineAt + lineBytes;
  const outAt = roomAt + roomBytes;
  const ringAt = outAt + rowBytes;
  new Float32Array(buffer, at, radius + 1).set(all.subarray(radius));
  const pointers = new Int32Array(buffer, pointersAt, slots);
  const room: RowRoom = {
    view: new Float32Array(buffer, roomAt, (block + 2 * radius) * 3),
    at: roomAt,
  };
  const slotOf = (y: number) => ringAt + (y % slots) * rowBytes;
  for (let x = 0; x < width; x += block) {
    const count = Math.min(block, width - x);
    const line = new Float32Array(buffer, lineAt, count + 2 * radius);
    const from = Math.max(0, x - radius);
    const to = Math.min(width, x + count + radius);
    const before = from - (x - radius);
    const last = before + to - from;
    let fed = 0;
    for (let y = 0; y < height; y++) {
      for (; fed < height && fed <= y + radius; fed++) {
        feed(fed, from, to - from, lineAt + before * FLOAT, room);
        line.fill(line[before], 0, before);
        line.fill(line[last - 1], last);
        kernels.blurLine(lineAt + radius * FLOAT, count, at, radius, slotOf(fed));
      }
      for (let k = 0; k < slots; k++) {
        pointers[k] = slotOf(Math.min(height - 1, Math.max(0, y + k - radius)));
      }
      kernels.blurRows(pointersAt, radius, count, at, outAt);
      give(y, x, count, outAt, room);
    }
  }
}

/** A blurred plane, of a deviation in pixels. */
export function gaussian({ width, height, values }: Plane, sigma: number): Plane {
  if (!(sigma > LEAST_SIGMA)) return { width, height, values: values.slice() };
  const out = new Float32Array(width * height);
  const { memory } = compiled();
  blurInRows(
    width,
    height,
    sigma,
    (y, x, count, to) => {
      const from = y * width + x;
      new Float32Array(memory.buffer, to, count).set(values.subarray(from, from + count));
    },
    (y, x, count, from) => out.set(new Float32Array(memory.buffer, from, count), y * width + x),
  );
  return { width, height, values: out };
}

/** Beyond this deviation three box means stand for a Gaussian. */
const DIRECT = 3;

/**
 * A wide Gaussian of a whole plane: three box means in a row, their variances summing to sigma².
 * Source: W. M. Wells, "Efficient synthesis of Gaussian filters by cascaded uniform filters", 1986.
 */
export function wideGaussian(plane: Plane, sigma: number): Plane {
  if (sigma <= DIRECT) return gaussian(plane, sigma);
  const ideal = Math.sqrt(4 * sigma * sigma + 1);
  let low = Math.floor(ideal);
  if (low % 2 === 0) low--;
  const lows = Math.round((12 * sigma * sigma - 3 * low * low - 12 * low - 9) / (-4 * low - 4));
  let blurred = plane;
  for (let i = 0; i < 3; i++) blurred = boxMean(blurred, ((i < lows ? low : low + 2) - 1) / 2);
  return blurred;
}
