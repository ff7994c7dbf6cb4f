import type { Rectangle } from '../../frame/geometry';
import type { Stroke } from '../../settings/fields';
import { strokeName } from '../stroke-name';
import { layStroke } from '../strokes';
import { edgesOf, saidFrom, spreadFrom } from './find';
import { closer, type Sight } from './sight';

/**
 * What a stroke may cover that keeps to the edges of what it is drawn on: found near it, as a thing is found of which the middle of the
 * stroke is a part.
 */
export interface Within extends Rectangle {
  /** Of each pixel of that part of the sight's picture, 0..255. */
  values: Uint8Array;
}

/** The middle of a stroke, as a share of its radius. */
const MIDDLE = 0.2;
/** Pixels beyond the stroke that are looked at as well, and the least radius of its middle. */
const AROUND = 8;
const LEAST = 0.8;
/** How loud what is unlike speaks at no strength and at full, falling evenly between as a power. */
const FAINT = 0.002;
const LOUD = 0.8;
/** What belongs more than not is covered, over so much of the way. */
const STEEP = 3;

/** What a stroke may cover; null where it lies outside of the picture. */
export function withinEdges(stroke: Stroke, sight: Sight): Within | null {
  const { width, height } = sight.picture;
  const longEdge = Math.max(width, height);
  const reach = stroke.radius * longEdge + AROUND;
  const xs = stroke.points.map(p => p[0] * width);
  const ys = stroke.points.map(p => p[1] * height);
  const least = (all: number[], most: number) =>
    Math.max(0, Math.min(most, Math.floor(all.reduce((a, b) => Math.min(a, b)) - reach)));
  const past = (all: number[], most: number) =>
    Math.max(0, Math.min(most, Math.ceil(all.reduce((a, b) => Math.max(a, b)) + reach)));
  const x = least(xs, width);
  const y = least(ys, height);
  const part = { x, y, width: past(xs, width) - x, height: past(ys, height) - y };
  if (part.width < 2 || part.height < 2) return null;
  return sight.memory.remembered('within', strokeName(stroke), () => {
    const grid = closer(sight, part);
    const laid = new Float32Array(part.width * part.height);
    const middle = {
      ...stroke,
      radius: Math.max(LEAST / longEdge, stroke.radius * MIDDLE),
      hardness: 1,
      flow: 1,
    };
    layStroke(laid, { ...part, cell: 1 }, { ...middle, erase: false }, { width, height });
    const seeds = Uint8Array.from(laid, v => (v > 0.5 ? 1 : 0));
    if (!seeds.includes(1)) return { ...part, values: new Uint8Array(laid.length) };
    const said = saidFrom(seeds, grid, 1 / longEdge);
    const unspoken = FAINT * (LOUD / FAINT) ** stroke.keepEdges;
    const values = spreadFrom(grid, edgesOf(grid), [said], [], unspoken, null);
    return {
      ...part,
      values: Uint8Array.from(values, v =>
        Math.round(255 * Math.min(1, Math.max(0, (v - 0.5) * STEEP + 0.5))),
      ),
    };
  });
}
