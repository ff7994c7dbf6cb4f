import type { Lattice } from '../kernels/dabs';
import type { Stroke } from '../treatment/masks';
import { layStrokes } from './strokes';

/**
 * Strokes as coverage, where all but the last are remembered: while one is painted, those before it are not laid
 * again with each movement of the pointer. The result is that of laying all of them.
 */

/** Lattices remembered at most, about a megabyte each at the size of a tile. */
const KEPT = 48;
const kept = new Map<string, Float32Array>();

const scratch = new Float64Array(1);
const words = new Uint32Array(scratch.buffer);

/** Two 32-bit hashes (FNV-1a, with different starts) over every number of the strokes. */
function nameOf(strokes: readonly Stroke[], count: number): string {
  let a = 0x811c9dc5;
  let b = 0x2f0b4c47;
  const mix = (value: number) => {
    scratch[0] = value;
    a = Math.imul(a ^ words[0], 0x01000193);
    a = Math.imul(a ^ words[1], 0x01000193);
    b = Math.imul(b ^ words[1], 0x01000193) + 0x9e3779b9;
    b = Math.imul(b ^ words[0], 0x01000193);
  };
  for (let i = 0; i < count; i++) {
    const { points, radius, hardness, flow, erase } = strokes[i];
    mix(points.length);
    mix(radius);
    mix(hardness);
    mix(flow);
    mix(erase ? 1 : 0);
    for (const point of points) {
      mix(point[0]);
      mix(point[1]);
      mix(point[2]);
    }
  }
  return `${count} ${a >>> 0} ${b >>> 0}`;
}

/** The coverage of strokes on a lattice; the array is the caller's own. */
export function laidStrokes(
  strokes: readonly Stroke[],
  lattice: Lattice,
  photograph: { width: number; height: number },
): Float32Array {
  const values = new Float32Array(lattice.width * lattice.height);
  const earlier = strokes.length - 1;
  if (earlier < 1) {
    layStrokes(values, lattice, strokes, photograph);
    return values;
  }
  const { x, y, width, height, cell } = lattice;
  const place = `${x} ${y} ${width} ${height} ${cell} ${photograph.width} ${photograph.height}`;
  const key = `${place} ${nameOf(strokes, earlier)}`;
  const known = kept.get(key);
  if (known) {
    values.set(known);
    kept.delete(key);
    kept.set(key, known);
  } else {
    layStrokes(values, lattice, strokes.slice(0, earlier), photograph);
    kept.set(key, values.slice());
    if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  }
  layStrokes(values, lattice, strokes.slice(earlier), photograph);
  return values;
}
