import type { Stroke } from '../settings/fields';
import type { Mask } from './mask';
import { strokesOf } from './part-strokes';
import { kindOfPart } from './parts';
import { SPACING, FINEST } from './strokes';

/** How much work the strokes of masks are, so that a small file cannot ask for hours of it. */

/** A treatment is painted at most as if its whole picture were covered so many times. */
const MOST_PAINTED = 20_000;
/** What a dab costs however small it is, as a share of a picture. */
const LEAST_DAB = 1e-4;

/** What it costs to hear a rough stroke of the area finder, and to find where one that keeps to edges may lie, as shares of pictures. */
const HEARD = 15;
const KEEPS = 5;
const KEEPS_EACH = 400;
/** What it costs to find an edge anew. */
const FINE = 500;

const known = new WeakMap<Stroke, number>();

/** What keeping to edges costs: by the part of the picture about the stroke. */
function kept({ points, radius, keepEdges }: Stroke): number {
  if (keepEdges === 0) return 0;
  let [left, top, right, bottom] = [1, 1, 0, 0];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  const share = (from: number, to: number) => Math.min(1, Math.max(0, to - from) + 2 * radius);
  return KEEPS + KEEPS_EACH * share(left, right) * share(top, bottom);
}

/** How many times the dabs of a stroke could cover a square picture of the photograph's long edge. */
function painted(stroke: Stroke): number {
  const found = known.get(stroke);
  if (found !== undefined) return found;
  const { points, radius } = stroke;
  let length = 0;
  for (let i = 1; i < points.length; i++) {
    length += Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
  }
  const dabs = 1 + length / Math.max(radius * SPACING, FINEST);
  const pictures = dabs * (Math.min(1, 4 * radius * radius) + LEAST_DAB) + kept(stroke);
  known.set(stroke, pictures);
  return pictures;
}

/** What is wrong with the amount of painting in masks, in words; null where nothing is. */
export function tooMuchPainting(masks: readonly Mask[]): string | null {
  let sum = 0;
  for (const { parts, fine } of masks) {
    if (fine > 0) sum += FINE;
    for (const part of parts) {
      const kind = kindOfPart(part);
      const each = kind.reads !== 'place' && kind.sought ? HEARD : 0;
      for (const [, strokes] of strokesOf(part)) for (const stroke of strokes) sum += painted(stroke) + each;
      sum += 2 * each;
    }
  }
  return sum > MOST_PAINTED ? `more painting than ${MOST_PAINTED} times the whole picture` : null;
}
