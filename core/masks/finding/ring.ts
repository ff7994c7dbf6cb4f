import type { Stroke } from '../../settings/fields';

/** Strokes that go around something: what lies beyond them is not meant. */

/** A stroke that ends so near to where it began, as a share of its length, goes around something. */
const NEARLY_CLOSED = 0.2;

/** Fewer points go around nothing. */
const LEAST_POINTS = 4;

/** Whether a stroke goes around something. */
export function goesAround(
  { points }: Stroke,
  { width, height }: { width: number; height: number },
): boolean {
  if (points.length < LEAST_POINTS) return false;
  const way = (a: readonly number[], b: readonly number[]) =>
    Math.hypot((b[0] - a[0]) * width, (b[1] - a[1]) * height);
  let length = 0;
  for (let i = 1; i < points.length; i++) length += way(points[i - 1], points[i]);
  return way(points[0], points.at(-1)!) <= NEARLY_CLOSED * length;
}

/** Marks the cells that a closed line goes around, by its winding: however it crosses itself, and beyond the picture's edge too. */
function markWithin(marked: Uint8Array, { points }: Stroke, width: number, height: number): void {
  const places = points.map(([x, y]) => [x * width - 0.5, y * height - 0.5] as const);
  const crossings: { x: number; turn: number }[] = [];
  for (let y = 0; y < height; y++) {
    crossings.length = 0;
    for (let i = 0; i < places.length; i++) {
      const [x0, y0] = places[i];
      const [x1, y1] = places[(i + 1) % places.length];
      if (y0 <= y === y1 <= y) continue;
      crossings.push({ x: x0 + ((y - y0) / (y1 - y0)) * (x1 - x0), turn: y1 > y0 ? 1 : -1 });
    }
    crossings.sort((a, b) => a.x - b.x);
    let winding = 0;
    for (let k = 0; k + 1 < crossings.length; k++) {
      winding += crossings[k].turn;
      if (winding === 0) continue;
      const from = Math.max(0, Math.ceil(crossings[k].x));
      const to = Math.min(width - 1, Math.floor(crossings[k + 1].x));
      if (to >= from) marked.fill(1, y * width + from, y * width + to + 1);
    }
  }
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
  const within = new Uint8Array(width * height);
  for (const ring of rings) markWithin(within, ring, width, height);
  if (meant.some(seeds => seeds.some((s, i) => s && !within[i]))) return null;
  return within.map(v => 1 - v);
}
