import { oklabToLinear } from './oklab';

const probe = new Float64Array(3);
const EDGE = 1e-8;

function insideSrgb(L: number, a: number, b: number): boolean {
  probe[0] = L;
  probe[1] = a;
  probe[2] = b;
  oklabToLinear(probe);
  return (
    probe[0] >= -EDGE &&
    probe[0] <= 1 + EDGE &&
    probe[1] >= -EDGE &&
    probe[1] <= 1 + EDGE &&
    probe[2] >= -EDGE &&
    probe[2] <= 1 + EDGE
  );
}

/**
 * How much of a chroma vector sRGB holds at lightness L, keeping L and hue: the gamut mapping of CSS Color 4
 * (chroma reduction in OKLCh), without its local clip.
 * @returns a factor 0..1 for (a, b); 0 at black, at white and beyond
 */
export function chromaThatFits(L: number, a: number, b: number): number {
  if (L <= 0 || L >= 1) return 0;
  if (insideSrgb(L, a, b)) return 1;
  let low = 0;
  let high = 1;
  for (let i = 0; i < 20; i++) {
    const mid = (low + high) / 2;
    if (insideSrgb(L, a * mid, b * mid)) low = mid;
    else high = mid;
  }
  return low;
}

/** The largest chroma in OKLCh that sRGB reaches anywhere is below this. */
const CHROMA_CEILING = 0.4;
const LIGHTNESSES = 256;
const DIRECTIONS = 512;
let ceilings: Float32Array | undefined;

function tabulate(): Float32Array {
  const table = new Float32Array((LIGHTNESSES + 1) * (DIRECTIONS + 1));
  for (let i = 0; i <= LIGHTNESSES; i++) {
    for (let j = 0; j <= DIRECTIONS; j++) {
      const direction = (j / DIRECTIONS) * 2 * Math.PI;
      const a = CHROMA_CEILING * Math.cos(direction);
      const b = CHROMA_CEILING * Math.sin(direction);
      table[i * (DIRECTIONS + 1) + j] = CHROMA_CEILING * chromaThatFits(i / LIGHTNESSES, a, b);
    }
  }
  return table;
}

/**
 * The most chroma that sRGB holds at lightness L (0..1) in a direction (turns, 0..1) of OKLCh: bilinear in a
 * table made at first use, within 0.004 of the gamut's own edge.
 */
export function mostChroma(L: number, turns: number): number {
  if (!(L > 0 && L < 1)) return 0;
  ceilings ??= tabulate();
  const x = L * LIGHTNESSES;
  const y = turns * DIRECTIONS;
  const i = x | 0;
  const j = y < DIRECTIONS ? y | 0 : DIRECTIONS - 1;
  const fx = x - i;
  const fy = y - j;
  const at = i * (DIRECTIONS + 1) + j;
  const under = at + DIRECTIONS + 1;
  return (
    (ceilings[at] * (1 - fy) + ceilings[at + 1] * fy) * (1 - fx) +
    (ceilings[under] * (1 - fy) + ceilings[under + 1] * fy) * fx
  );
}
