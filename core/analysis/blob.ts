import type { Geometry } from '../frame/geometry';

/** An oval on the photograph about most of something: its middle in fractions of width and height, its radii in fractions of the long edge. */
export interface Blob {
  centre: [number, number];
  radii: [number, number];
  /** How much of all of it lies in there, 0..1. */
  holds: number;
}

/** Cells along the long edge of the grid that is looked at. */
const CELLS = 32;
/** A cell belongs where it has this much of what the fullest has. */
const FULL = 0.25;
/** A thing that spans more than this much of both sides of the picture has no place of its own. */
const WIDEST = 0.85;
/** Cells about it that belong to it as well, and how far a circle reaches beyond a square's side. */
const ABOUT = 1;
const AROUND = 1.25;

/**
 * The largest heap of something; null where there is none, or it reaches over the picture.
 * @param weightAt how much of it a pixel has, by its number in rows
 * @param geometry how the pixels lie on the photograph; left out where they are it
 */
export function blobOf(
  weightAt: (p: number) => number,
  width: number,
  height: number,
  geometry?: Geometry,
): Blob | null {
  const cell = Math.max(1, Math.max(width, height) / CELLS);
  const columns = Math.ceil(width / cell);
  const rows = Math.ceil(height / cell);
  const grid = new Float64Array(columns * rows);
  let total = 0;
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / cell) * columns;
    for (let x = 0; x < width; x++) {
      const weight = weightAt(y * width + x);
      grid[row + Math.floor(x / cell)] += weight;
      total += weight;
    }
  }
  if (total === 0) return null;
  const least = FULL * Math.max(...grid);
  const seen = new Uint8Array(grid.length);
  let best: { weight: number; cells: number[] } = { weight: 0, cells: [] };
  for (let start = 0; start < grid.length; start++) {
    if (seen[start] || grid[start] < least) continue;
    const cells = [start];
    seen[start] = 1;
    let weight = 0;
    for (let n = 0; n < cells.length; n++) {
      const at = cells[n];
      weight += grid[at];
      const [cx, cy] = [at % columns, Math.floor(at / columns)];
      for (const [x, y] of [
        [cx - 1, cy],
        [cx + 1, cy],
        [cx, cy - 1],
        [cx, cy + 1],
      ]) {
        const next = y * columns + x;
        if (x < 0 || y < 0 || x >= columns || y >= rows || seen[next] || grid[next] < least) continue;
        seen[next] = 1;
        cells.push(next);
      }
    }
    if (weight > best.weight) best = { weight, cells };
  }
  const xs = best.cells.map(at => at % columns);
  const ys = best.cells.map(at => Math.floor(at / columns));
  const [left, right] = [Math.min(...xs) - ABOUT, Math.max(...xs) + 1 + ABOUT].map(v => v * cell);
  const [top, bottom] = [Math.min(...ys) - ABOUT, Math.max(...ys) + 1 + ABOUT].map(v => v * cell);
  if (right - left > WIDEST * width && bottom - top > WIDEST * height) return null;
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  const place = Float64Array.of(x / width, y / height);
  geometry?.placeOf(x, y, place);
  const long = geometry?.longEdge ?? Math.max(width, height);
  const turned = geometry ? isTurned(geometry) : false;
  const [across, down] = [right - left, bottom - top].map(
    length => Math.round((length / 2 / long) * AROUND * 1e4) / 1e4,
  );
  const rounded = (v: number) => Math.round(v * 1e4) / 1e4;
  return {
    centre: [rounded(place[0]), rounded(place[1])],
    radii: turned ? [down, across] : [across, down],
    holds: best.weight / total,
  };
}

/** What lies across in the framed picture lies down in the photograph. */
function isTurned({ toPhotograph }: Geometry): boolean {
  const [a, b] = [new Float64Array(2), new Float64Array(2)];
  toPhotograph(0, 0, a);
  toPhotograph(1, 0, b);
  return Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
}
