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
const LIGHTNESSES = 192;
const DIRECTIONS = 360;
let ceilings: Float32Array | undefined;

/** The largest chroma inside sRGB along one direction (cosine, sine), to 1e-5. */
function edgeAlong(L: number, x: number, y: number): number {
  const dl = 0.3963377774 * x + 0.2158037573 * y;
  const dm = -0.1055613458 * x - 0.0638541728 * y;
  const ds = -0.0894841775 * x - 1.291485548 * y;
  let low = 0;
  let high = CHROMA_CEILING;
  for (let i = 0; i < 15; i++) {
    const chroma = (low + high) / 2;
    const rl = L + chroma * dl;
    const rm = L + chroma * dm;
    const rs = L + chroma * ds;
    const l = rl * rl * rl;
    const m = rm * rm * rm;
    const s = rs * rs * rs;
    const r = 4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s;
    const g = -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s;
    const b = -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s;
    if (r >= 0 && r <= 1 && g >= 0 && g <= 1 && b >= 0 && b <= 1) low = chroma;
    else high = chroma;
  }
  return low;
}

function tabulate(): Float32Array {
  const table = new Float32Array((LIGHTNESSES + 1) * (DIRECTIONS + 1));
  for (let j = 0; j <= DIRECTIONS; j++) {
    const direction = (j / DIRECTIONS) * 2 * Math.PI;
    const x = Math.cos(direction);
    const y = Math.sin(direction);
    for (let i = 1; i < LIGHTNESSES; i++) {
      table[i * (DIRECTIONS + 1) + j] = edgeAlong(i / LIGHTNESSES, x, y);
    }
  }
  return table;
}

/**
 * The most chroma that sRGB holds at lightness L (0..1) in a direction (turns, 0..1) of OKLCh: bilinear in a
 * table made at first use, within 0.005 of the gamut's own edge.
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
