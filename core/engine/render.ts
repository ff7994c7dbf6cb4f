import { readCodes, readGreyCodes, spreadGrey, write16, write8 } from '../kernels/codes';
import { readGrid, type Grid } from '../kernels/grid';
import { readRamp, writeRamp8, type Ramp } from '../kernels/ramp';
import type { Point } from '../steps/define';
import type { Plan } from './plan';

/** A rectangle of a photograph: encoded sRGB, 16-bit codes, interleaved RGB, row by row. */
export interface Tile {
  codes: Uint16Array;
  width: number;
  height: number;
  /** Where the tile lies in the picture, in pixels: dither and grain are anchored to it. */
  x: number;
  y: number;
}

function runExact(point: Point, values: Float32Array, count: number): void {
  const c = new Float64Array(3);
  for (let i = 0; i < count * 3; i += 3) {
    c[0] = values[i];
    c[1] = values[i + 1];
    c[2] = values[i + 2];
    point(c);
    values[i] = c[0];
    values[i + 1] = c[1];
    values[i + 2] = c[2];
  }
}

/** A plan made ready for rows of up to `width` pixels; the returned function reuses its buffers. */
function rowRunner(plan: Plan, width: number, grey: boolean) {
  const greys = new Float32Array(width);
  const colours = new Float32Array(width * 3);
  const [first] = plan.passes;
  const startsGrey = grey && first?.kind === 'ramp';

  return (codes: Uint16Array, from: number, count: number): Float32Array => {
    let isGrey = startsGrey;
    if (startsGrey) readGreyCodes(codes, from, count, greys);
    else if (first?.kind !== 'grid') readCodes(codes, from, count, colours);

    for (const pass of plan.passes) {
      if (pass.kind === 'grid') {
        isGrey = pass.grid.channels === 1;
        readGrid(pass.grid, codes, from, count, isGrey ? greys : colours);
      } else if (pass.kind === 'ramp') {
        if (!isGrey) for (let i = 0; i < count; i++) greys[i] = colours[i * 3];
        readRamp(pass.ramp, greys, count, colours);
        isGrey = false;
      } else {
        if (isGrey) spreadGrey(greys, count, colours);
        isGrey = false;
        runExact(pass.point, colours, count);
      }
    }
    if (isGrey) spreadGrey(greys, count, colours);
    return colours;
  };
}

export interface RenderOptions {
  /** The photograph is grey, as it was when the plan was made. */
  grey: boolean;
  /**
   * Where the greys that the conversion left are kept with this tile, so that a later render that changes
   * only what follows starts from them.
   */
  kept?: KeptGreys;
}

/** The greys of a tile beneath its toning, and the table that made them. */
export interface KeptGreys {
  from?: Grid;
  greys?: Float32Array;
}

/** The greys that a plan's first pass leaves, one a pixel, where the plan is greys and a ramp over them. */
function greysBeneath(
  plan: Plan,
  tile: Tile,
  { grey, kept = {} }: RenderOptions,
): [Float32Array, Ramp] | null {
  const [first, second] = plan.passes;
  const count = tile.width * tile.height;
  if (grey && plan.passes.length === 1 && first.kind === 'ramp') {
    const greys = new Float32Array(count);
    readGreyCodes(tile.codes, 0, count, greys);
    return [greys, first.ramp];
  }
  if (plan.passes.length !== 2 || first.kind !== 'grid' || second.kind !== 'ramp') return null;
  if (!kept.greys || kept.from !== first.grid) {
    kept.greys ??= new Float32Array(count);
    kept.from = first.grid;
    readGrid(first.grid, tile.codes, 0, count, kept.greys);
  }
  return [kept.greys, second.ramp];
}

/** Renders a tile to 8-bit codes, dithered: RGBA (stride 4) for a screen, RGB (stride 3) for a file. */
export function render8(
  plan: Plan,
  tile: Tile,
  out: Uint8Array | Uint8ClampedArray,
  stride: 3 | 4,
  options: RenderOptions,
): void {
  const { width, height, x, y } = tile;
  const toned = greysBeneath(plan, tile, options);
  if (toned) {
    const [greys, ramp] = toned;
    for (let row = 0; row < height; row++) {
      writeRamp8(ramp, greys, row * width, width, out, row * width * stride, stride, x, y + row);
    }
    return;
  }
  const run = rowRunner(plan, width, options.grey);
  for (let row = 0; row < height; row++) {
    write8(run(tile.codes, row * width, width), width, out, row * width * stride, stride, x, y + row);
  }
}

/** Renders a tile to 16-bit RGB codes. */
export function render16(plan: Plan, tile: Tile, out: Uint16Array, { grey }: RenderOptions): void {
  const run = rowRunner(plan, tile.width, grey);
  for (let row = 0; row < tile.height; row++) {
    const values = run(tile.codes, row * tile.width, tile.width);
    write16(values, tile.width, out, row * tile.width * 3);
  }
}
