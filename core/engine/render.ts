import { readCodes, readGreyCodes, spreadGrey, write16, write8 } from '../kernels/codes';
import { readGrid, type Codes, type Grid } from '../kernels/grid';
import { readRamp, writeRamp8, type Ramp } from '../kernels/ramp';
import { runExact } from '../kernels/exact';
import { mendColours, mendGreys, mendRamp } from '../kernels/mend';
import type { Tile } from '../frame/framing';
import type { Geometry, Rectangle } from '../frame/geometry';
import type { Table } from './bake';
import type { Plan } from './plan';
import { runPlan, type Checkpoint, type Surveys } from './run';
import type { Point } from '../steps/define';

/** What is kept with a tile between renders, so that a change computes only what follows it. */
export interface Kept {
  /** The tile's codes as a plan prepares them, and by what was found in the whole picture. */
  prepared?: { of: Codes; by: unknown; codes: Uint16Array };
  /** The greys that a conversion left, and the codes and the table that made them. */
  of?: Codes;
  from?: Grid;
  greys?: Float32Array;
  /** The rectangle of the tile that the rest belongs to: with another margin around it, it is another. */
  over?: Rectangle;
  /** The state before the pass that changed last. */
  checkpoint?: Checkpoint;
  /** What the passes found from the place alone. */
  placed?: Map<string, unknown>;
  /** The passes of the last render. */
  lastKeys?: string[];
}

export interface RenderOptions {
  /** The photograph is grey, as it was when the plan was made. */
  grey: boolean;
  /** The framed picture that the tile is a part of; needed unless the plan is simple. */
  geometry?: Geometry;
  /** What the plan's passes found in the whole picture; needed where the plan is surveyed. */
  surveys?: Surveys;
  /** The part of the tile that is wanted, where the tile holds a margin around it. */
  part?: Rectangle;
  kept?: Kept;
  /**
   * Nothing but this rectangle of the tile has changed since it was rendered with `kept`: nothing else need be
   * rendered again. A hint; more may be.
   */
  only?: Rectangle;
}

/** A simple plan's tables, in order. */
interface Simple {
  table: Table;
  point: Point;
}
const simpleOf = (plan: Plan): Simple[] => plan.passes.flatMap(p => (p.kind === 'points' ? [p] : []));

/** A simple plan made ready for rows of up to `width` pixels; the returned function reuses its buffers. */
function rowRunner(plan: Plan, width: number, grey: boolean) {
  const greys = new Float32Array(width);
  const colours = new Float32Array(width * 3);
  const passes = simpleOf(plan);
  const first = passes[0]?.table;
  const startsGrey = grey && first?.kind === 'ramp';

  return (codes: Codes, from: number, count: number): Float32Array => {
    let isGrey = startsGrey;
    if (startsGrey) readGreyCodes(codes, from, count, greys);
    else if (first?.kind !== 'grid') readCodes(codes, from, count, colours);

    for (const { table, point } of passes) {
      if (table.kind === 'grid') {
        isGrey = table.grid.channels === 1;
        const holes = readGrid(table.grid, codes, from, count, isGrey ? greys : colours);
        if (holes && isGrey) mendGreys(greys, codes, from, count, point);
        else if (holes) mendColours(colours, codes, from, count, point);
      } else if (table.kind === 'ramp') {
        if (!isGrey) for (let i = 0; i < count; i++) greys[i] = colours[i * 3];
        readRamp(table.ramp, greys, count, colours);
        if (table.holes) mendRamp(colours, greys, count, point);
        isGrey = false;
      } else {
        if (isGrey) spreadGrey(greys, count, colours);
        isGrey = false;
        if (table.kind === 'compiled') table.run(colours.subarray(0, count * 3), null, 1);
        else runExact(point, colours, count);
      }
    }
    if (isGrey) spreadGrey(greys, count, colours);
    return colours;
  };
}

let scratch = new Float32Array(0);
const scratchFor = (count: number) => {
  if (scratch.length < count) scratch = new Float32Array(count);
  return scratch;
};

/** The greys that a plan's first pass leaves, one a pixel, where the plan is greys and a ramp over them. */
function greysBeneath(plan: Plan, tile: Tile, options: RenderOptions): [Float32Array, Ramp] | null {
  const { grey, kept = {} } = options;
  const simple = simpleOf(plan);
  const [first, second] = simple;
  const count = tile.width * tile.height;
  if (grey && simple.length === 1 && first.table.kind === 'ramp' && !first.table.holes) {
    const greys = scratchFor(count);
    readGreyCodes(tile.codes, 0, count, greys);
    return [greys, first.table.ramp];
  }
  if (simple.length !== 2 || first.table.kind !== 'grid') return null;
  if (second.table.kind !== 'ramp' || second.table.holes) return null;
  const { grid } = first.table;
  if (!kept.greys || kept.from !== grid || kept.of !== tile.codes) {
    // Where nothing is kept the same memory serves again: fresh memory costs as much as the work.
    kept.greys ??= options.kept ? new Float32Array(count) : scratchFor(count);
    kept.from = grid;
    kept.of = tile.codes;
    if (readGrid(grid, tile.codes, 0, count, kept.greys))
      mendGreys(kept.greys, tile.codes, 0, count, first.point);
  }
  return [kept.greys, second.table.ramp];
}

/**
 * A plan with masks or with passes that look around, over a tile: calls back with each row of the wanted part, and
 * where it begins in it.
 */
function treatRows(
  plan: Plan,
  tile: Tile,
  part: Rectangle,
  { geometry, surveys = [], kept, only }: RenderOptions,
  onRow: (rgb: Float32Array, column: number, row: number) => void,
): void {
  if (!geometry) throw new RangeError('this plan needs the geometry of the picture');
  const onBand = (rgb: Float32Array, band: Rectangle) => {
    const left = Math.max(band.x, part.x);
    const width = Math.min(band.x + band.width, part.x + part.width) - left;
    if (width <= 0) return;
    for (let i = 0; i < band.height; i++) {
      const row = band.y + i - part.y;
      if (row < 0 || row >= part.height) continue;
      const at = (i * band.width + left - band.x) * 3;
      onRow(rgb.subarray(at, at + width * 3), left - part.x, row);
    }
  };
  if (!kept) {
    runPlan(plan, tile.codes, tile, geometry, surveys, onBand);
    return;
  }
  const { x, y, width, height } = tile;
  const { over } = kept;
  if (over && (over.x !== x || over.y !== y || over.width !== width || over.height !== height)) {
    kept.checkpoint = kept.placed = kept.lastKeys = undefined;
  }
  kept.over = { x, y, width, height };
  const keys = plan.passes.map(p => p.key);
  const last = kept.lastKeys;
  const changed = last ? keys.findIndex((key, i) => key !== last[i]) : -1;
  kept.placed ??= new Map();
  kept.checkpoint = runPlan(plan, tile.codes, tile, geometry, surveys, onBand, {
    checkpoint: kept.checkpoint,
    keepAt: changed > 0 ? changed : (kept.checkpoint?.keys.length ?? null),
    placed: kept.placed,
    only,
  });
  kept.lastKeys = keys;
}

/** The codes of a tile as the first table of colours of a plan reads them: prepared, where the plan begins so. */
export const preparedCodes = (
  plan: Plan,
  tile: Tile,
  options: Pick<RenderOptions, 'geometry' | 'surveys' | 'kept'>,
): Codes => preparedTile(plan, tile, options).codes;

/** A tile as the points of a simple plan want it: its codes prepared first, where the plan begins so. */
function preparedTile(
  plan: Plan,
  tile: Tile,
  { geometry, surveys = [], kept }: Pick<RenderOptions, 'geometry' | 'surveys' | 'kept'>,
): Tile {
  const [pass] = plan.passes;
  if (pass?.kind !== 'field' || !pass.prepares) return tile;
  if (!geometry) throw new RangeError('this plan needs the geometry of the picture');
  const by = surveys[0]?.field;
  const known = kept?.prepared;
  if (known && known.of === tile.codes && known.by === by) return { ...tile, codes: known.codes };
  const { width, height } = tile;
  const codes = new Uint16Array(width * height * 3);
  const { ownCodes } = pass.field;
  if (!ownCodes) throw new RangeError(`what ${pass.step.kind} prepares is not made of codes`);
  const { x, y } = tile;
  const region = { x, y, width, height, scale: geometry, placeOf: geometry.placeOf };
  ownCodes(tile.codes, region, by, codes);
  if (kept) kept.prepared = { of: tile.codes, by, codes };
  return { ...tile, codes };
}

/** Renders a tile to 8-bit codes, dithered: RGBA (stride 4) for a screen, RGB (stride 3) for a file. */
export function render8(
  plan: Plan,
  tile: Tile,
  out: Uint8Array | Uint8ClampedArray,
  stride: 3 | 4,
  options: RenderOptions,
): void {
  const { part = tile } = options;
  const { width, height, x, y } = part;
  if (!plan.simple) {
    treatRows(plan, tile, part, options, (rgb, column, row) =>
      write8(rgb, rgb.length / 3, out, (row * width + column) * stride, stride, x + column, y + row),
    );
    return;
  }
  const ready = preparedTile(plan, tile, options);
  const toned = greysBeneath(plan, ready, options);
  if (toned) {
    const [greys, ramp] = toned;
    for (let row = 0; row < height; row++) {
      writeRamp8(ramp, greys, row * width, width, out, row * width * stride, stride, x, y + row);
    }
    return;
  }
  const run = rowRunner(plan, width, options.grey);
  for (let row = 0; row < height; row++) {
    write8(run(ready.codes, row * width, width), width, out, row * width * stride, stride, x, y + row);
  }
}

/** Renders a tile to 16-bit RGB codes. */
export function render16(plan: Plan, tile: Tile, out: Uint16Array, options: RenderOptions): void {
  const { part = tile } = options;
  const { width, height } = part;
  if (!plan.simple) {
    treatRows(plan, tile, part, options, (rgb, column, row) =>
      write16(rgb, rgb.length / 3, out, (row * width + column) * 3),
    );
    return;
  }
  const ready = preparedTile(plan, tile, options);
  const run = rowRunner(plan, width, options.grey);
  for (let row = 0; row < height; row++) {
    write16(run(ready.codes, row * width, width), width, out, row * width * 3);
  }
}

/** Renders a tile to encoded sRGB, three numbers a pixel, not clipped: what lies beyond 0..1 a wider space may hold. */
export function renderValues(plan: Plan, tile: Tile, out: Float32Array, options: RenderOptions): void {
  const { part = tile } = options;
  const { width, height } = part;
  if (!plan.simple) {
    treatRows(plan, tile, part, options, (rgb, column, row) => out.set(rgb, (row * width + column) * 3));
    return;
  }
  const ready = preparedTile(plan, tile, options);
  const run = rowRunner(plan, width, options.grey);
  for (let row = 0; row < height; row++) {
    out.set(run(ready.codes, row * width, width).subarray(0, width * 3), row * width * 3);
  }
}

/** The part of the framed picture that is needed to render a part of it: its margin added, inside the picture. */
export function withMargin(plan: Plan, part: Rectangle, geometry: Geometry): Rectangle {
  const margin = plan.margin(geometry);
  const x = Math.max(0, part.x - margin);
  const y = Math.max(0, part.y - margin);
  return {
    x,
    y,
    width: Math.min(geometry.width, part.x + part.width + margin) - x,
    height: Math.min(geometry.height, part.y + part.height + margin) - y,
  };
}
