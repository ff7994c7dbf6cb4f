import { FAMILIES, familyNames, pureHue } from '../../../core/colour/hues';
import { luma, toHex } from '../../../core/colour/srgb';
import { stepKind } from '../../../core/steps';
import { noContext, type Point } from '../../../core/steps/define';
import type { Step } from '../../../core/treatment/treatment';

/** What a step does to greys and to pure hues, by its own function: what its tray is drawn from. */

// eslint-disable-next-line no-restricted-syntax -- the settings are of its own kind
const pointOf = (step: Step): Point => stepKind(step.kind)!.point(step.settings as never, noContext());

const held = (v: number) => Math.min(1, Math.max(0, v));

/** The colours that a step makes of even greys, dark to light, as paints. */
export function ramp(step: Step, count: number): string[] {
  const point = pointOf(step);
  const c = new Float64Array(3);
  return Array.from({ length: count }, (_, i) => {
    c.fill(i / (count - 1));
    point(c);
    return toHex(held(c[0]), held(c[1]), held(c[2]));
  });
}

/** The tones that a step makes of even greys: luma 0..1, by channel where it parts them. */
export function toneLines(step: Step, count: number): { paint: string | null; tones: number[] }[] {
  const point = pointOf(step);
  const c = new Float64Array(3);
  const rgb: number[][] = [[], [], []];
  const all: number[] = [];
  let isGrey = true;
  for (let i = 0; i < count; i++) {
    c.fill(i / (count - 1));
    point(c);
    for (let k = 0; k < 3; k++) rgb[k].push(held(c[k]));
    all.push(held(luma(c[0], c[1], c[2])));
    isGrey &&= Math.max(c[0], c[1], c[2]) - Math.min(c[0], c[1], c[2]) < 0.004;
  }
  if (isGrey) return [{ paint: null, tones: all }];
  return ['#b23b32', '#3f8a3c', '#3a5fb5'].map((paint, k) => ({ paint, tones: rgb[k] }));
}

/** Muted pure hues as paints, and what a step makes of each. */
export function hues(step: Step): { before: string; after: string }[] {
  const point = pointOf(step);
  return familyNames.map(family => {
    const [r, g, b] = pureHue(FAMILIES[family]).map(v => 0.3 + 0.5 * v);
    const c = Float64Array.of(r, g, b);
    point(c);
    return { before: toHex(r, g, b), after: toHex(held(c[0]), held(c[1]), held(c[2])) };
  });
}
