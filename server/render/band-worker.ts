import { createPlanner } from '../../core/engine/plan';
import { render16, render8 } from '../../core/engine/render';
import type { Treatment } from '../../core/treatment/schema';

/** A band of rows of a picture, in memory that the threads share. */
export interface Band {
  codes: SharedArrayBuffer;
  /** The codes are 8-bit. */
  narrow: boolean;
  out: SharedArrayBuffer;
  bits: 8 | 16;
  width: number;
  height: number;
  fromRow: number;
  rows: number;
  grey: boolean;
  treatment: Treatment;
}

const planner = createPlanner();

/** Renders one band of a picture in a worker thread. */
export default function renderBand(band: Band): void {
  const { width, height, fromRow, rows, grey } = band;
  const plan = planner(band.treatment, { grey, pixels: width * height });
  const from = fromRow * width * 3;
  const length = rows * width * 3;
  let codes: Uint16Array;
  if (band.narrow) {
    const narrow = new Uint8Array(band.codes, from, length);
    codes = new Uint16Array(length);
    for (let i = 0; i < length; i++) codes[i] = narrow[i] * 257;
  } else codes = new Uint16Array(band.codes, from * 2, length);

  const tile = { codes, width, height: rows, x: 0, y: fromRow };
  if (band.bits === 8) render8(plan, tile, new Uint8Array(band.out, from, length), 3, { grey });
  else render16(plan, tile, new Uint16Array(band.out, from * 2, length), { grey });
}
