import type { Lattice } from '../kernels/dabs';
import type { Stroke } from '../settings/fields';
import { strokeName } from './stroke-name';
import { layStroke, layStrokes, type Laid } from './strokes';

/**
 * Strokes as coverage, with memory: while one is painted, those before it are not laid again with each movement of
 * the pointer, and of itself only what has been added. The result is that of laying all of them.
 */

export interface Remembered {
  /** All strokes but the last. */
  earlier: Float32Array;
  /** The last as it was, on top of them, and how far it was laid. */
  last?: { stroke: Stroke; laid: Laid; values: Float32Array };
}

/** Strokes are laid square by square, each of so many cells a side: what is asked for may move with the pointer. */
const SIDE = 256;
/** Squares remembered at most, up to half a megabyte each. */
const KEPT = 128;

/** What has been laid before, by square and strokes. */
export type StrokeMemory = Map<string, Remembered>;

/** Whether a stroke is another with points added to it. */
function goesOn(stroke: Stroke, from: Stroke): boolean {
  const { points, radius, hardness, flow, erase } = stroke;
  if (radius !== from.radius || hardness !== from.hardness || flow !== from.flow) return false;
  if (erase !== from.erase || points.length < from.points.length) return false;
  return from.points.every((p, i) => {
    const q = points[i];
    return p[0] === q[0] && p[1] === q[1] && p[2] === q[2];
  });
}

/** Whether two strokes are the same, point by point. */
const isSame = (a: Stroke, b: Stroke): boolean => a.points.length === b.points.length && goesOn(a, b);

/** The strokes of a square but the last, laid: from what is known of them without their last, or anew. */
function earlierOn(
  earlier: readonly Stroke[],
  before: Remembered | undefined,
  square: Lattice,
  photograph: { width: number; height: number },
): Float32Array {
  const last = earlier.at(-1);
  if (last && before?.last && isSame(last, before.last.stroke)) return before.last.values.slice();
  const values = new Float32Array(SIDE * SIDE);
  layStrokes(values, square, earlier, photograph);
  return values;
}

/** A square with the strokes laid, to be read at once and not written to, since painting on goes on in it. */
function laidSquare(
  strokes: readonly Stroke[],
  names: readonly string[],
  square: Lattice,
  photograph: { width: number; height: number },
  memory: StrokeMemory,
): Float32Array {
  const { x, y, cell } = square;
  const place = `${x} ${y} ${cell} ${photograph.width} ${photograph.height}`;
  const keyOf = (count: number) => `${place} ${names.slice(0, count).join()}`;
  const last = strokes.at(-1)!;
  const count = strokes.length - 1;
  const key = keyOf(count);
  const known = memory.get(key) ?? {
    earlier: earlierOn(strokes.slice(0, -1), memory.get(keyOf(count - 1)), square, photograph),
  };
  memory.delete(key);
  memory.set(key, known);
  if (memory.size > KEPT) memory.delete(memory.keys().next().value!);

  const before = known.last;
  const goes = before && goesOn(last, before.stroke);
  const values = goes ? before.values : known.earlier.slice();
  const laid = layStroke(values, square, last, photograph, goes ? before.laid : undefined);
  known.last = { stroke: last, laid, values };
  return values;
}

/** The coverage of strokes on a lattice, with memory of what was laid before. */
export function laidStrokes(
  strokes: readonly Stroke[],
  lattice: Lattice,
  photograph: { width: number; height: number },
  memory: StrokeMemory,
): Float32Array {
  const { x, y, width, height, cell } = lattice;
  const out = new Float32Array(width * height);
  if (!strokes.length) return out;
  const [left, top] = [x, y].map(v => Math.floor(v / SIDE));
  const right = Math.floor((x + width - 1) / SIDE);
  const bottom = Math.floor((y + height - 1) / SIDE);
  const names = strokes.slice(0, -1).map(strokeName);
  for (let row = top; row <= bottom; row++) {
    for (let column = left; column <= right; column++) {
      const square = { cell, x: column * SIDE, y: row * SIDE, width: SIDE, height: SIDE };
      const laid = laidSquare(strokes, names, square, photograph, memory);
      const from = Math.max(x, square.x);
      const to = Math.min(x + width, square.x + SIDE);
      const end = Math.min(y + height, square.y + SIDE);
      for (let j = Math.max(y, square.y); j < end; j++) {
        const at = (j - square.y) * SIDE - square.x;
        out.set(laid.subarray(at + from, at + to), (j - y) * width + from - x);
      }
    }
  }
  return out;
}
