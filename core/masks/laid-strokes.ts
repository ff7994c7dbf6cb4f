import type { Lattice } from '../kernels/dabs';
import type { Stroke } from '../treatment/masks';
import { strokeName } from './stroke-name';
import { layStroke, layStrokes, type Laid } from './strokes';

/**
 * Strokes as coverage, with memory: while one is painted, those before it are not laid again with each movement of
 * the pointer, and of itself only what has been added. The result is that of laying all of them.
 */

interface Remembered {
  /** All strokes but the last. */
  earlier: Float32Array;
  /** The last as it was, on top of them, and how far it was laid. */
  last?: { stroke: Stroke; laid: Laid; values: Float32Array };
}

/** Lattices remembered at most, up to two megabytes each at the size of a tile. */
const KEPT = 48;
const kept = new Map<string, Remembered>();

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

/** The coverage of strokes on a lattice: to be read at once and not written to, since painting on goes on in it. */
export function laidStrokes(
  strokes: readonly Stroke[],
  lattice: Lattice,
  photograph: { width: number; height: number },
): Float32Array {
  const last = strokes.at(-1);
  const { x, y, width, height, cell } = lattice;
  if (!last) return new Float32Array(width * height);
  const place = `${x} ${y} ${width} ${height} ${cell} ${photograph.width} ${photograph.height}`;
  const earlier = strokes.slice(0, -1);
  const key = `${place} ${earlier.map(strokeName).join()}`;
  let known = kept.get(key);
  if (!known) {
    known = { earlier: new Float32Array(width * height) };
    layStrokes(known.earlier, lattice, earlier, photograph);
  }
  kept.delete(key);
  kept.set(key, known);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);

  const before = known.last;
  if (before && goesOn(last, before.stroke)) {
    const laid = layStroke(before.values, lattice, last, photograph, before.laid);
    known.last = { stroke: last, laid, values: before.values };
    return before.values;
  }
  // Another array than before, since the old one may still be in use.
  const values = known.earlier.slice();
  known.last = { stroke: last, laid: layStroke(values, lattice, last, photograph), values };
  return values;
}
