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
const COLUMNS = DIRECTIONS + 1;
let ceilings: Float32Array | undefined;

/** Steps in which the largest chroma is looked for: to 1e-5. */
const CHROMAS = 1 << 15;
const CHROMA_STEP = CHROMA_CEILING / CHROMAS;

/**
 * The largest chroma inside sRGB along one direction (cosine, sine) for each lightness, in steps. What lies within is found from what
 * the lightness before it held, in strides that double, and then halved: a third of the work of halving the whole range each time.
 */
function edgeAlong(x: number, y: number, edges: Float64Array, column: number): void {
  const dl = 0.3963377774 * x + 0.2158037573 * y;
  const dm = -0.1055613458 * x - 0.0638541728 * y;
  const ds = -0.0894841775 * x - 1.291485548 * y;
  const isInside = (L: number, step: number): boolean => {
    const chroma = step * CHROMA_STEP;
    const rl = L + chroma * dl;
    const rm = L + chroma * dm;
    const rs = L + chroma * ds;
    const l = rl * rl * rl;
    const m = rm * rm * rm;
    const s = rs * rs * rs;
    const r = 4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s;
    const g = -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s;
    const b = -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s;
    return r >= 0 && r <= 1 && g >= 0 && g <= 1 && b >= 0 && b <= 1;
  };
  let within = 0;
  for (let i = 1; i < LIGHTNESSES; i++) {
    const L = i / LIGHTNESSES;
    let beyond: number;
    let stride = 64;
    if (isInside(L, within)) {
      while (within + stride < CHROMAS && isInside(L, within + stride)) {
        within += stride;
        stride *= 2;
      }
      beyond = Math.min(CHROMAS, within + stride);
    } else {
      beyond = within;
      within = Math.max(0, beyond - stride);
      while (within > 0 && !isInside(L, within)) {
        beyond = within;
        stride *= 2;
        within = Math.max(0, beyond - stride);
      }
    }
    while (beyond - within > 1) {
      const middle = (within + beyond) >> 1;
      if (isInside(L, middle)) within = middle;
      else beyond = middle;
    }
    edges[i * COLUMNS + column] = within * CHROMA_STEP;
  }
}

/** How far about a lightness its edge is rounded, at the most; and as a share of the way that is left to black or white. */
const ROUNDING = 0.045;
const ROUNDING_AT_ENDS = 0.4;
/** A little inside of the edge, where no channel comes to its end: there the sRGB curve is steepest. */
const INSIDE = 0.95;
/** Places within the rounding that are looked at, to each side. */
const PLACES = 6;

/** How much the places within the rounding count, from one side to the other; of all of them. */
const weights = Array.from(
  { length: 2 * PLACES + 1 },
  (_, k) => Math.cos((Math.PI / 2) * ((k - PLACES) / (PLACES + 1))) ** 2,
);
const allWeights = weights.reduce((sum, weight) => sum + weight, 0);

/** Adds a row of edges between two lightnesses to a row. By itself, so that it is compiled when it has run a few times. */
function addBetween(
  row: Float64Array,
  edges: Float64Array,
  from: number,
  part: number,
  weight: number,
): void {
  for (let j = 0, at = from; j < COLUMNS; j++, at++) {
    row[j] += weight * (edges[at] + (edges[at + COLUMNS] - edges[at]) * part);
  }
}

/**
 * A table of edges with their corners rounded: a mean about each lightness that falls off smoothly, a little inside. The edge is a
 * peak with nearly straight sides, so that the mean does not leave it.
 */
function tabulate(): Float32Array {
  const edges = new Float64Array((LIGHTNESSES + 1) * COLUMNS);
  for (let j = 0; j < COLUMNS; j++) {
    const direction = (j / DIRECTIONS) * 2 * Math.PI;
    edgeAlong(Math.cos(direction), Math.sin(direction), edges, j);
  }
  const table = new Float32Array(edges.length);
  const row = new Float64Array(COLUMNS);
  for (let i = 0; i <= LIGHTNESSES; i++) {
    row.fill(0);
    const L = i / LIGHTNESSES;
    const width = Math.min(ROUNDING, ROUNDING_AT_ENDS * L, ROUNDING_AT_ENDS * (1 - L));
    for (let k = -PLACES; k <= PLACES; k++) {
      const place = Math.min(LIGHTNESSES, Math.max(0, (L + (width * k) / PLACES) * LIGHTNESSES));
      const below = Math.min(LIGHTNESSES - 1, place | 0);
      const part = place - below;
      const weight = (INSIDE * weights[k + PLACES]) / allWeights;
      addBetween(row, edges, below * COLUMNS, part, weight);
    }
    table.set(row, i * COLUMNS);
  }
  return table;
}

/**
 * The most chroma at lightness L (0..1) in a direction (turns, 0..1) of OKLCh: what sRGB holds there, its corners rounded
 * along the lightness, so that nothing that follows it has a kink. From a table made at first use, by a cubic along the
 * lightness (Catmull and Rom) and straight lines between directions.
 */
export function mostChroma(L: number, turns: number): number {
  if (!(L > 0 && L < 1)) return 0;
  ceilings ??= tabulate();
  const x = L * LIGHTNESSES;
  const y = turns * DIRECTIONS;
  const i = x | 0;
  const j = y < DIRECTIONS ? y | 0 : DIRECTIONS - 1;
  const f = x - i;
  const fy = y - j;
  const row = COLUMNS;
  const at = i * row + j;
  const before = i > 0 ? at - row : at;
  const after = i + 2 <= LIGHTNESSES ? at + 2 * row : at + row;
  const p0 = ceilings[before] * (1 - fy) + ceilings[before + 1] * fy;
  const p1 = ceilings[at] * (1 - fy) + ceilings[at + 1] * fy;
  const p2 = ceilings[at + row] * (1 - fy) + ceilings[at + row + 1] * fy;
  const p3 = ceilings[after] * (1 - fy) + ceilings[after + 1] * fy;
  const cubic =
    p1 + 0.5 * f * (p2 - p0 + f * (2 * p0 - 5 * p1 + 4 * p2 - p3 + f * (3 * (p1 - p2) + p3 - p0)));
  return cubic > 0 ? cubic : 0;
}

/** The share of the most chroma up to which a colour stays as it is. */
const FREE = 0.8;

/**
 * What is left of a chroma where there is a most, as a factor: nearer to it than a fifth it gives way more and more, and
 * never reaches it. Smooth to its second derivative.
 */
export function held(chroma: number, most: number): number {
  if (chroma <= FREE * most) return 1;
  if (!(most > 0)) return 0;
  const room = 1 - FREE;
  const over = (chroma / most - FREE) / room;
  return ((FREE + room * Math.tanh(over)) * most) / chroma;
}
