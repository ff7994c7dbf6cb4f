import { rgbToOklab } from '../colour/oklab';
import { noContext, type Point, type StepContext } from '../steps/define';
import { stepKind, type Kind, type Settings } from '../steps';

/** Points made already, by kind and settings: many are asked for one colour after another. */
const made = new Map<string, Point>();

/** What a step makes of an encoded colour, with some settings over the defaults. */
export function own(
  kind: Kind,
  settings: object,
  rgb: readonly number[],
  context?: Partial<StepContext>,
): number[] {
  const key = JSON.stringify([kind, settings]);
  let point = context ? undefined : made.get(key);
  if (!point) {
    const definition = stepKind(kind)!;
    point = definition.point({ ...definition.defaults, ...settings } as Settings, {
      ...noContext(),
      ...context,
    });
    if (made.size > 50) made.clear();
    if (!context) made.set(key, point);
  }
  const c = Float64Array.from(rgb);
  point(c);
  return Array.from(c);
}

export const grey = (v: number): [number, number, number] => [v, v, v];

/** OKLab lightness, chroma and hue (radians) of an encoded colour. */
export function oklch(rgb: readonly number[]) {
  const c = Float64Array.from(rgb);
  rgbToOklab(c);
  return { L: c[0], chroma: Math.hypot(c[1], c[2]), hue: Math.atan2(c[2], c[1]) };
}

/** Degrees between two directions in radians. */
export function apart(a: number, b: number): number {
  const d = Math.abs(a - b) % (2 * Math.PI);
  return (Math.min(d, 2 * Math.PI - d) * 180) / Math.PI;
}
