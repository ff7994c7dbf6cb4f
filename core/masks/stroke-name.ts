import type { Stroke } from '../settings/fields';

/** Short names of strokes, so that strokes laid before are known again without being read point by point. */

const scratch = new Float64Array(1);
const words = new Uint32Array(scratch.buffer);

/** Two 32-bit hashes (FNV-1a, with different starts) of numbers. */
class Name {
  private a = 0x811c9dc5;
  private b = 0x2f0b4c47;

  add(value: number): void {
    scratch[0] = value;
    this.a = Math.imul(this.a ^ words[0], 0x01000193);
    this.a = Math.imul(this.a ^ words[1], 0x01000193);
    this.b = Math.imul(this.b ^ words[1], 0x01000193) + 0x9e3779b9;
    this.b = Math.imul(this.b ^ words[0], 0x01000193);
  }

  toString(): string {
    return `${this.a >>> 0} ${this.b >>> 0}`;
  }
}

const names = new WeakMap<Stroke, string>();

/** A name that strokes of equal numbers share, made once for each object. */
export function strokeName(stroke: Stroke): string {
  const known = names.get(stroke);
  if (known !== undefined) return known;
  const { points, radius, hardness, flow, erase, keepEdges } = stroke;
  const name = new Name();
  for (const value of [points.length, radius, hardness, flow, erase ? 1 : 0, keepEdges]) name.add(value);
  for (const point of points) {
    name.add(point[0]);
    name.add(point[1]);
    name.add(point[2]);
  }
  const made = name.toString();
  names.set(stroke, made);
  return made;
}
