import type { Stroke } from '../../core/settings/fields';
import type { Treatment } from '../../core/treatment/treatment';

/**
 * Treatments on their way to a worker. A stroke never changes, and may have thousands of points: each goes to a worker once, and
 * stands as its number from then on. So the worker also knows it again, and need not read it point by point.
 */

/** A treatment in which numbers stand for strokes, and the strokes that the worker does not have yet. */
export interface SentTreatment {
  told: Treatment;
  strokes: [number: number, stroke: Stroke][];
  /** Those that it needs no more. */
  forget: number[];
}

/** Something with a treatment, on its way. */
export type Sent<R extends { treatment: Treatment }> = Omit<R, 'treatment'> & { treatment: SentTreatment };

/** What stands for a stroke. */
interface Standing {
  stroke: number;
}

const isStroke = (value: object): value is Stroke => 'points' in value && 'radius' in value;
const isStanding = (value: object): value is Standing =>
  'stroke' in value && typeof value.stroke === 'number';

/** A value with some objects within it changed; what holds none of them stays the same object. */
function changed(value: unknown, change: (object: object) => unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const other = change(value);
  if (other !== value) return other;
  if (Array.isArray(value)) {
    let made: unknown[] | null = null;
    for (const [i, each] of value.entries()) {
      const to = changed(each, change);
      if (to !== each) (made ??= value.slice())[i] = to;
    }
    return made ?? value;
  }
  let made: Record<string, unknown> | null = null;
  for (const [name, each] of Object.entries(value)) {
    const to = changed(each, change);
    if (to !== each) (made ??= { ...value } as Record<string, unknown>)[name] = to;
  }
  return made ?? value;
}

const withMasks = (treatment: Treatment, change: (object: object) => unknown): Treatment => {
  const masks = changed(treatment.masks, change) as Treatment['masks'];
  return masks === treatment.masks ? treatment : { ...treatment, masks };
};

let count = 0;
const numbers = new WeakMap<Stroke, number>();
function numberOf(stroke: Stroke): number {
  let number = numbers.get(stroke);
  if (number === undefined) numbers.set(stroke, (number = ++count));
  return number;
}

/** Strokes that a worker keeps beside those of the treatment that it was sent last: those of another view, of an undo. */
const MOST_BESIDE = 500;

/** What one worker has been sent. */
export class Sender {
  private readonly known = new Set<number>();

  /** A treatment for the worker; it must be sent, and in this order. */
  send(treatment: Treatment): SentTreatment {
    const strokes: SentTreatment['strokes'] = [];
    const used = new Set<number>();
    const told = withMasks(treatment, object => {
      if (!isStroke(object)) return object;
      const number = numberOf(object);
      used.add(number);
      if (!this.known.has(number)) strokes.push([number, object]);
      // Those used last are at the end.
      this.known.delete(number);
      this.known.add(number);
      return { stroke: number } satisfies Standing;
    });
    const forget: number[] = [];
    for (const number of this.known) {
      if (this.known.size <= used.size + MOST_BESIDE) break;
      this.known.delete(number);
      forget.push(number);
    }
    return { told, strokes, forget };
  }

  /** Another worker has begun in its place, and has nothing. */
  begin(): void {
    this.known.clear();
  }
}

/** What a worker has been sent, in the worker. */
export class Receiver {
  private readonly strokes = new Map<number, Stroke>();

  receive({ told, strokes, forget }: SentTreatment): Treatment {
    for (const [number, stroke] of strokes) this.strokes.set(number, stroke);
    const treatment = withMasks(told, object => {
      if (!isStanding(object)) return object;
      const stroke = this.strokes.get(object.stroke);
      if (!stroke) throw new RangeError('a stroke was named before it was sent');
      return stroke;
    });
    for (const number of forget) this.strokes.delete(number);
    return treatment;
  }
}
