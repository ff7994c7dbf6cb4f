import { framed } from '../frame/framing';
import { geometryOf } from '../frame/geometry';
import { createPlanner, type Plan } from '../engine/plan';
import { render16, withMargin } from '../engine/render';
import type { Tile } from '../frame/framing';
import { runPlan } from '../engine/run';
import { createSurveyor } from '../engine/survey';
import { sightOf, type Sight } from '../masks/finding/sight';
import type { Treatment } from '../treatment/treatment';
import { parseTreatment } from '../treatment/schema';
import type { Rectangle } from '../frame/geometry';

/** Pictures and ways to render them, for tests. */

export const read = (steps: object[], rest: object = {}): Treatment =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps, ...rest });

/** A picture from a function of place (fractions) that gives encoded RGB. */
export function paint(width: number, height: number, at: (x: number, y: number) => readonly number[]): Tile {
  const codes = new Uint16Array(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    const rgb = at(((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height);
    for (let k = 0; k < 3; k++) codes[i * 3 + k] = Math.round(Math.min(1, Math.max(0, rgb[k])) * 65535);
  }
  return { codes, width, height, x: 0, y: 0 };
}

/** Smooth colour with fine noise, the same every time. */
export function picture(width: number, height: number, grey = false): Tile {
  let seed = 11;
  return paint(width, height, (x, y) => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const n = (seed / 2 ** 32 - 0.5) * 0.04;
    const rgb = grey ? [x, x, x] : [x, y, (1 - x) * (0.5 + 0.5 * Math.sin(9 * y))];
    return rgb.map(v => v + n);
  });
}

/** A photograph to find things in, where a plan wants it. */
export const sightFor = (plan: Plan, { codes, width, height }: Tile, grey = false): Sight | undefined =>
  plan.sought.length ? sightOf(codes, width, height, grey) : undefined;

/**
 * Renders a part of a treatment of a picture (the whole where none is given) to 16-bit codes, by the way that
 * browser, server and command line go.
 */
export function rendered(
  treatment: Treatment,
  source: Tile,
  { grey = false, part, pixels = 1e9 }: { grey?: boolean; part?: Rectangle; pixels?: number } = {},
): { codes: Uint16Array; width: number; height: number } {
  const geometry = geometryOf(source, treatment.frame);
  const plan = createPlanner()(treatment, { grey, pixels });
  const all = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  const wanted = part ?? all;
  const look = createSurveyor(framed(source, geometry, all).codes, geometry);
  const surveys = look(plan, sightFor(plan, source, grey));
  const tile = framed(source, geometry, withMargin(plan, wanted, geometry));
  const codes = new Uint16Array(wanted.width * wanted.height * 3);
  render16(plan, tile, codes, { grey, geometry, surveys, part: wanted });
  return { codes, width: wanted.width, height: wanted.height };
}

/** The treated picture as numbers, before it is cut to codes. */
export function treatedNumbers(
  treatment: Treatment,
  source: Tile,
  { grey = false, pixels = 1e9 } = {},
): Float32Array {
  const geometry = geometryOf(source, treatment.frame);
  const plan = createPlanner()(treatment, { grey, pixels });
  const all = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  const { codes } = framed(source, geometry, all);
  const numbers = new Float32Array(codes.length);
  const surveys = createSurveyor(codes, geometry)(plan, sightFor(plan, source, grey));
  runPlan(plan, codes, all, geometry, surveys, (rgb, { y }) => numbers.set(rgb, y * all.width * 3));
  return numbers;
}

/** The encoded colour of a pixel. */
export const pixelAt = (
  { codes, width }: { codes: ArrayLike<number>; width: number },
  x: number,
  y: number,
): [number, number, number] => {
  const p = (Math.floor(y) * width + Math.floor(x)) * 3;
  return [codes[p] / 65535, codes[p + 1] / 65535, codes[p + 2] / 65535];
};
