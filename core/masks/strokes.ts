import { dab, type Lattice } from '../kernels/dabs';
import type { Stroke } from '../settings/fields';

/** Dabs lie this share of the radius apart, and at least so many long edges. */
export const SPACING = 0.25;
export const FINEST = 1e-4;
/** Pressure scales the flow, and a little the size. */
const LIGHTEST = 0.5;

/** How far a stroke has been laid: from here it goes on when points are added to it. */
export interface Laid {
  points: number;
  x: number;
  y: number;
  pressure: number;
  /** Photograph pixels to the next dab. */
  until: number;
}

/**
 * Lays a stroke, or what has been added to it since: a row of dabs along its points, evenly spaced from the first
 * point on, so that painting and replaying give the same. Flow builds up where dabs overlap and with every stroke.
 * Radii are fractions of the photograph's long edge.
 * @param coverage what is there already, added to in place
 * @param from how far it has been laid before on the same coverage
 */
export function layStroke(
  coverage: Float32Array,
  lattice: Lattice,
  { points, radius, hardness, flow, erase }: Stroke,
  photograph: { width: number; height: number },
  from?: Laid,
): Laid {
  const longEdge = Math.max(photograph.width, photograph.height);
  const left = lattice.x * lattice.cell;
  const top = lattice.y * lattice.cell;
  const right = left + lattice.width * lattice.cell;
  const bottom = top + lattice.height * lattice.cell;
  const most = radius * longEdge;
  const lay = (x: number, y: number, pressure: number) => {
    const size = most * (LIGHTEST + (1 - LIGHTEST) * pressure);
    const reach = size + 2 * lattice.cell;
    if (x + reach < left || x - reach > right || y + reach < top || y - reach > bottom) return;
    dab(coverage, lattice, x, y, size, hardness, flow * pressure, erase);
  };
  const step = Math.max(most * SPACING, FINEST * longEdge);
  let { x, y, pressure, until } = from ?? {
    x: points[0][0] * photograph.width,
    y: points[0][1] * photograph.height,
    pressure: points[0][2],
    until: step,
  };
  if (!from) lay(x, y, pressure);
  for (let i = from?.points ?? 1; i < points.length; i++) {
    const toX = points[i][0] * photograph.width;
    const toY = points[i][1] * photograph.height;
    const toPressure = points[i][2];
    const distance = Math.hypot(toX - x, toY - y);
    while (until <= distance) {
      const t = until / distance;
      lay(x + t * (toX - x), y + t * (toY - y), pressure + t * (toPressure - pressure));
      until += step;
    }
    until -= distance;
    x = toX;
    y = toY;
    pressure = toPressure;
  }
  return { points: points.length, x, y, pressure, until };
}

/** Lays strokes one after another. */
export function layStrokes(
  coverage: Float32Array,
  lattice: Lattice,
  strokes: readonly Stroke[],
  photograph: { width: number; height: number },
): void {
  for (const stroke of strokes) layStroke(coverage, lattice, stroke, photograph);
}
