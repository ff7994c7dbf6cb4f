import type { Stroke } from '../../settings/fields';
import { layStroke } from '../strokes';

/** Strokes that go around something: what lies beyond them is not meant. */

/** A stroke that ends so near to where it began, as a share of its length, goes around something. */
const NEARLY_CLOSED = 0.2;

const places = 4;

/** Whether a stroke goes around something. */
export function goesAround(
  { points }: Stroke,
  { width, height }: { width: number; height: number },
): boolean {
  if (points.length < places) return false;
  const way = (a: readonly number[], b: readonly number[]) =>
    Math.hypot((b[0] - a[0]) * width, (b[1] - a[1]) * height);
  let length = 0;
  for (let i = 1; i < points.length; i++) length += way(points[i - 1], points[i]);
  return way(points[0], points.at(-1)!) <= NEARLY_CLOSED * length;
}

/**
 * The cells that lie beyond strokes that go around what is meant; null where none does.
 * @param meant cells that are meant, where any are known: if they lie beyond, nothing is gone around
 */
export function beyondRings(
  strokes: readonly Stroke[],
  meant: readonly Uint8Array[],
  { width, height }: { width: number; height: number },
): Uint8Array | null {
  const rings = strokes.filter(stroke => goesAround(stroke, { width, height }));
  if (!rings.length) return null;
  const count = width * height;
  const wall = new Float32Array(count);
  const lattice = { x: 0, y: 0, width, height, cell: 1 };
  for (const ring of rings) {
    const points = [...ring.points, ring.points[0]].map(([x, y]): [number, number, number] => [x, y, 1]);
    const thin = {
      ...ring,
      points,
      radius: 1.5 / Math.max(width, height),
      hardness: 1,
      flow: 1,
      erase: false,
    };
    layStroke(wall, lattice, thin, { width, height });
  }
  const beyond = new Uint8Array(count);
  const open = new Int32Array(count);
  let many = 0;
  const enter = (i: number) => {
    if (beyond[i] || wall[i] > 0.3) return;
    beyond[i] = 1;
    open[many++] = i;
  };
  for (let x = 0; x < width; x++) {
    enter(x);
    enter(count - width + x);
  }
  for (let y = 0; y < height; y++) {
    enter(y * width);
    enter(y * width + width - 1);
  }
  while (many > 0) {
    const i = open[--many];
    const x = i % width;
    if (x > 0) enter(i - 1);
    if (x < width - 1) enter(i + 1);
    if (i >= width) enter(i - width);
    if (i < count - width) enter(i + width);
  }
  return meant.some(seeds => seeds.some((s, i) => s && beyond[i])) ? null : beyond;
}
