import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryOf } from '../../frame/geometry';
import { frameSchema } from '../../frame/schema';
import type { Tile } from '../../frame/framing';
import type { Stroke } from '../../settings/fields';
import { paint, rendered } from '../../testing/pictures';
import { showingArea } from '../../treatment/areas';
import { parseTreatment } from '../../treatment/schema';
import { belonging, soughtBy } from './find';
import { sightOf } from './sight';

const LONG = 384;

/** A round thing with a highlight on a ground that goes from dark to light, with some noise. */
function thing(
  { x, y, radius, grey }: { x: number; y: number; radius: number; grey: boolean },
  size = LONG,
): Tile {
  let seed = 5;
  return paint(size, Math.round(size / 1.5), (u, v) => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const n = (seed / 2 ** 32 - 0.5) * 0.016;
    const away = Math.hypot(u - x, (v - y) / 1.5) / radius;
    const inside = away < 1;
    const light = inside ? 0.72 - 0.1 * away : 0.28 + 0.12 * u;
    const rgb = grey
      ? [light, light, light]
      : inside
        ? [light, light * 0.8, light * 0.3]
        : [light, light, light * 1.1];
    return rgb.map(c => c + n);
  });
}

const stroke = (radius: number, ...places: [number, number][]): Stroke => ({
  points: places.map(([x, y]) => [x, y, 1]),
  radius,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

const place = fc.record({
  x: fc.double({ min: 0.3, max: 0.7, noNaN: true }),
  y: fc.double({ min: 0.3, max: 0.7, noNaN: true }),
  radius: fc.double({ min: 0.08, max: 0.2, noNaN: true }),
  grey: fc.boolean(),
});

/** What two areas have in common, of what they cover together. */
function likeness(values: ArrayLike<number>, exact: (i: number) => boolean): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    const [a, b] = [values[i] > 0.5, exact(i)];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

/** The area of a part alone, white on black, as it is rendered over a picture. */
function shown(part: object, source: Tile, more: { frame?: object; steps?: object[]; grey?: boolean } = {}) {
  const treatment = parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    frame: more.frame ?? {},
    masks: [{ id: 'm', parts: [part] }],
    steps: [...(more.steps ?? []), { kind: 'wash', mask: 'm' }],
  });
  const alone = showingArea(treatment, 'm', 'grey', '#ffffff');
  const { codes, width, height } = rendered(alone, source, { grey: more.grey });
  return {
    values: Float32Array.from({ length: width * height }, (_, i) => codes[i * 3] / 65535),
    width,
    height,
  };
}

describe('a thing that is found', () => {
  it('is what a press on it means, and what a ring around it holds', () => {
    fc.assert(
      fc.property(place, at => {
        const { codes, width, height } = thing(at);
        const sight = sightOf(codes, width, height, at.grey);
        const isIn = (i: number) => {
          const [u, v] = [
            ((i % sight.width) + 0.5) / sight.width,
            (Math.floor(i / sight.width) + 0.5) / sight.height,
          ];
          return Math.hypot(u - at.x, (v - at.y) / 1.5) < at.radius;
        };
        const drawn = belonging(
          {
            strokesIn: [stroke(0.01, [at.x - at.radius * 0.6, at.y], [at.x + at.radius * 0.6, at.y])],
            strokesOut: [],
          },
          sight,
        );
        expect(likeness(drawn, isIn)).toBeGreaterThan(0.9);
        const around = Array.from({ length: 13 }, (_, k): [number, number] => {
          const angle = (k / 12) * 2 * Math.PI;
          return [at.x + at.radius * 1.4 * Math.cos(angle), at.y + at.radius * 2.1 * Math.sin(angle)];
        });
        const ringed = belonging({ strokesIn: [], strokesOut: [stroke(0.01, ...around)] }, sight);
        expect(likeness(ringed, isIn)).toBeGreaterThan(0.9);
      }),
      { numRuns: 20 },
    );
  });

  it('is nothing without strokes, and never more than all', () => {
    const { codes, width, height } = thing({ x: 0.5, y: 0.5, radius: 0.15, grey: false });
    const sight = sightOf(codes, width, height, false);
    expect(belonging({ strokesIn: [], strokesOut: [] }, sight).every(v => Math.abs(v) < 1e-6)).toBe(true);
    const anywhere = fc.tuple(
      fc.double({ min: -0.5, max: 1.5, noNaN: true }),
      fc.double({ min: -0.5, max: 1.5, noNaN: true }),
    );
    const some = fc.array(
      fc.tuple(
        fc.array(anywhere, { minLength: 1, maxLength: 4 }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
      ),
      { maxLength: 3 },
    );
    fc.assert(
      fc.property(some, some, (meant, not) => {
        const strokes = (all: typeof meant) => all.map(([points, radius]) => stroke(radius, ...points));
        const values = belonging({ strokesIn: strokes(meant), strokesOut: strokes(not) }, sight);
        expect(values.every(v => v >= 0 && v <= 1)).toBe(true);
      }),
      { numRuns: 25 },
    );
  });

  it('is looked for once, whoever asks again', () => {
    const { codes, width, height } = thing({ x: 0.5, y: 0.5, radius: 0.15, grey: false });
    const sight = sightOf(codes, width, height, false);
    const asked = { strokesIn: [stroke(0.01, [0.5, 0.5])], strokesOut: [] };
    const told: unknown[] = [];
    sight.memory.onFound = (...found) => told.push(found);
    const values = belonging(asked, sight);
    expect(belonging(structuredClone(asked), sight)).toBe(values);
    expect(told).toEqual([[soughtBy(asked), values]]);
    // Who is told of it finds nothing.
    const other = sightOf(codes, width, height, false);
    expect(other.memory.knows(soughtBy(asked))).toBe(false);
    other.memory.learn(soughtBy(asked), values);
    expect(belonging(asked, other)).toBe(values);
  });

  it('is given up where nobody waits for it, and found whole when it is asked for again', () => {
    const { codes, width, height } = thing({ x: 0.5, y: 0.5, radius: 0.15, grey: false });
    const asked = { strokesIn: [stroke(0.01, [0.5, 0.5])], strokesOut: [stroke(0.01, [0.1, 0.1])] };
    const expected = belonging(asked, sightOf(codes, width, height, false));
    for (let after = 0; after < 4; after++) {
      const sight = sightOf(codes, width, height, false);
      let left = after;
      sight.memory.pause = () => {
        if (left-- === 0) throw new Error('given up');
      };
      expect(() => belonging(asked, sight)).toThrow('given up');
      expect(sight.memory.knows(soughtBy(asked))).toBe(false);
      sight.memory.pause = () => undefined;
      expect(belonging(asked, sight)).toEqual(expected);
    }
  });

  it('stays where it is at any size, however the picture is framed, and whatever is done to its light', () => {
    const at = { x: 0.45, y: 0.55, radius: 0.16, grey: false };
    const part = { kind: 'found', strokesIn: [stroke(0.01, [0.4, 0.5], [0.5, 0.6])] };
    const isIn =
      (width: number, height: number, left = 0, top = 0, share = 1) =>
      (i: number) => {
        const u = left + share * (((i % width) + 0.5) / width);
        const v = top + share * ((Math.floor(i / width) + 0.5) / height);
        return Math.hypot(u - at.x, (v - at.y) / 1.5) < at.radius;
      };
    for (const size of [150, 384, 900]) {
      const { values, width, height } = shown(part, thing(at, size));
      expect(likeness(values, isIn(width, height))).toBeGreaterThan(size > 200 ? 0.95 : 0.9);
    }
    const source = thing(at);
    const crop = { x: 0.3, y: 0.3, width: 0.6, height: 0.6 };
    const cropped = shown(part, source, { frame: { crop } });
    expect(likeness(cropped.values, isIn(cropped.width, cropped.height, 0.3, 0.3, 0.6))).toBeGreaterThan(
      0.95,
    );
    const steps = [{ kind: 'light', settings: { exposure: -1.5, contrast: 0.4 } }, { kind: 'mono' }];
    const darker = shown(part, source, { steps });
    expect(likeness(darker.values, isIn(darker.width, darker.height))).toBeGreaterThan(0.95);
    // What the crop leaves out still says what is meant.
    const away = shown({ ...part, strokesIn: [stroke(0.01, [0.36, 0.45])] }, source, {
      frame: { crop: { x: 0.42, y: 0.3, width: 0.5, height: 0.6 } },
    });
    expect(away.values.some(v => v > 0.9)).toBe(true);
  });
});

describe('a stroke that keeps to edges', () => {
  it('covers what it is drawn on and stops there, at any size', () => {
    const at = { x: 0.5, y: 0.5, radius: 0.2, grey: false };
    // Along the inside of the rim, half of it beyond.
    const along = Array.from({ length: 9 }, (_, k): [number, number] => {
      const angle = (k / 8) * Math.PI;
      return [at.x + 0.17 * Math.cos(angle), at.y + 0.255 * Math.sin(angle)];
    });
    for (const size of [384, 900]) {
      const source = thing(at, size);
      const covered = (keepEdges: number) =>
        shown({ kind: 'brush', strokes: [{ ...stroke(0.08, ...along), hardness: 0.8, keepEdges }] }, source);
      const { values, width, height } = covered(0.7);
      const plain = covered(0).values;
      let [inside, beside, wanted] = [0, 0, 0];
      values.forEach((v, i) => {
        const away = Math.hypot(
          ((i % width) + 0.5) / width - at.x,
          (Math.floor(i / width) + 0.5) / height / 1.5 - at.y / 1.5,
        );
        if (away < at.radius * 0.97) {
          inside += v;
          wanted += plain[i];
        } else if (away > at.radius * 1.04) beside += v;
        expect(v).toBeLessThanOrEqual(plain[i] + 1e-3);
      });
      expect(inside / wanted).toBeGreaterThan(0.95);
      expect(beside / inside).toBeLessThan(0.02);
    }
  });

  it('takes away within edges too, and is itself where nothing has an edge', () => {
    const flat = paint(240, 160, () => [0.5, 0.45, 0.4]);
    const drawn = { ...stroke(0.06, [0.3, 0.5], [0.7, 0.5]), hardness: 0.5, keepEdges: 0.6 };
    const kept = shown({ kind: 'brush', strokes: [drawn] }, flat).values;
    const plain = shown({ kind: 'brush', strokes: [{ ...drawn, keepEdges: 0 }] }, flat).values;
    kept.forEach((v, i) => expect(Math.abs(v - plain[i])).toBeLessThan(0.02));
    const at = { x: 0.5, y: 0.5, radius: 0.2, grey: false };
    const source = thing(at);
    const all = { ...stroke(0.4, [0.5, 0.5]), hardness: 1 };
    const taken = shown({ kind: 'brush', strokes: [all, { ...drawn, erase: true, radius: 0.12 }] }, source);
    const { values, width, height } = taken;
    const valueAt = (u: number, v: number) => values[Math.floor(v * height) * width + Math.floor(u * width)];
    expect(valueAt(0.5, 0.5)).toBeLessThan(0.05);
    // Beside the thing, within reach of the stroke.
    expect(valueAt(0.5, 0.84)).toBeGreaterThan(0.9);
  });

  it('is found in the photograph through any frame', () => {
    const at = { x: 0.5, y: 0.5, radius: 0.2, grey: false };
    const source = thing(at);
    const part = { kind: 'brush', strokes: [{ ...stroke(0.25, [0.5, 0.5]), hardness: 1, keepEdges: 0.7 }] };
    const frame = { quarterTurns: 1, angle: 6, mirror: true };
    const { values, width, height } = shown(part, source, { frame });
    const { placeOf } = geometryOf(source, frameSchema.parse(frame));
    const out = new Float64Array(2);
    const isIn = (i: number) => {
      placeOf((i % width) + 0.5, Math.floor(i / width) + 0.5, out);
      return Math.hypot(out[0] - at.x, (out[1] - at.y) / 1.5) < at.radius;
    };
    expect(height).toBeGreaterThan(width);
    expect(likeness(values, isIn)).toBeGreaterThan(0.93);
  });
});
