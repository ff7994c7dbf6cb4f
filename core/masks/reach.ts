import type { ToneRange } from '../settings/fields';

/** The height of a reach at a tone: see the treatment format. Equal ends are a hard edge. */
export function reachAt([a, b, c, d]: ToneRange, tone: number): number {
  if (tone < a || tone > d) return (tone < a && b <= 0) || (tone > d && c >= 1) ? 1 : 0;
  if (tone < b) return (tone - a) / (b - a);
  if (tone > c) return (d - tone) / (d - c);
  return 1;
}

/** No limit at all. */
export const isWhole = (r: ToneRange): boolean => r[1] <= 0 && r[2] >= 1;
