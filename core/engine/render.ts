import { readCodes, readGreyCodes, spreadGrey, write16, write8 } from '../kernels/codes';
import { readGrid } from '../kernels/grid';
import { readRamp } from '../kernels/ramp';
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
  /** Called after each row; throw in it to stop. */
  onRow?: (row: number) => void;
}

/** Renders a tile to 8-bit codes, dithered: RGBA (stride 4) for a screen, RGB (stride 3) for a file. */
export function render8(
  plan: Plan,
  tile: Tile,
  out: Uint8Array | Uint8ClampedArray,
  stride: 3 | 4,
  { grey, onRow }: RenderOptions,
): void {
  const run = rowRunner(plan, tile.width, grey);
  for (let row = 0; row < tile.height; row++) {
    const values = run(tile.codes, row * tile.width, tile.width);
    write8(values, tile.width, out, row * tile.width * stride, stride, tile.x, tile.y + row);
    onRow?.(row);
  }
}

/** Renders a tile to 16-bit RGB codes. */
export function render16(plan: Plan, tile: Tile, out: Uint16Array, { grey, onRow }: RenderOptions): void {
  const run = rowRunner(plan, tile.width, grey);
  for (let row = 0; row < tile.height; row++) {
    const values = run(tile.codes, row * tile.width, tile.width);
    write16(values, tile.width, out, row * tile.width * 3);
    onRow?.(row);
  }
}
