import { hueSixths } from '../colour/hues';
import { luma } from '../colour/srgb';
import { smoothstep } from '../colour/tones';
import type { MaskPart } from './schema';
import type { StrokeMemory } from './laid-strokes';
import { reachAt } from './reach';

/** Parts of masks that are read from the picture: its tones and its hues. */
export type Seen = Extract<MaskPart, { kind: 'tones' | 'hues' }>;
export const isSeen = (part: MaskPart): part is Seen => part.kind === 'tones' || part.kind === 'hues';

/** What masks are read from, encoded RGB. */
export interface CoverageInput {
  /** What lies beneath the step. */
  beneath: Float32Array;
  /** The photograph with only its Ground steps: where hues and edges are read. */
  ground: Float32Array;
  /** Strokes that were laid before, where the picture is worked on. */
  memory?: StrokeMemory;
}

/** How much a tone or a hue belongs. Neutral pixels have no hue and belong little. */
export function seenPart(part: Seen, { beneath, ground }: CoverageInput, count: number): Float32Array {
  const values = new Float32Array(count);
  if (part.kind === 'tones') {
    for (let i = 0, p = 0; i < count; i++, p += 3) {
      values[i] = reachAt(part.range, luma(beneath[p], beneath[p + 1], beneath[p + 2]));
    }
    return values;
  }
  const half = part.width / 2;
  const soft = Math.max(1, part.softness * 60);
  for (let i = 0, p = 0; i < count; i++, p += 3) {
    const r = ground[p];
    const g = ground[p + 1];
    const b = ground[p + 2];
    const most = Math.max(r, g, b);
    const span = most - Math.min(r, g, b);
    if (span <= 0) continue;
    const away = Math.abs(hueSixths(r, g, b, most, span) * 60 - part.centre) % 360;
    const apart = Math.min(away, 360 - away);
    values[i] = smoothstep((half + soft - apart) / soft) * smoothstep((span - 0.02) / 0.08);
  }
  return values;
}
