import { remembered, throughAlike } from '../kernels/alike';
import { readCodes, spreadGrey, toCodes } from '../kernels/codes';
import { readGrid, type Codes } from '../kernels/grid';
import { gather, inCoveredRows, scatter, type Covered, type Gathered } from '../kernels/lay';
import { mendColours, mendGreys } from '../kernels/mend';
import { throughRamp, type Ramp } from '../kernels/ramp';
import type { Rectangle } from '../frame/geometry';
import type { Pass } from './pass';

type PointsPass = Extract<Pass, { kind: 'points' }>;

/** Pixels worked on at a time, so that what is at hand stays in the processor's cache. */
const CHUNK = 4096;

const codes = new Uint16Array(CHUNK * 3);
const greys = new Float32Array(CHUNK);
const colours = new Float32Array(CHUNK * 3);
const grounds = new Float32Array(CHUNK * 3);
const colour = new Float64Array(3);
const alike = remembered();

/** One colour exactly. */
function exactlyAt(pass: PointsPass, rgb: Float32Array, p: number, ground: Float32Array | null): void {
  for (let k = 0; k < 3; k++) colour[k] = rgb[p + k];
  if (pass.reads) {
    const from = ground ?? rgb;
    for (let k = 0; k < 3; k++) pass.reads.ground[k] = from[p + k];
  }
  pass.point(colour);
  for (let k = 0; k < 3; k++) rgb[p + k] = colour[k];
}

const outside = (v: number) => v < -1e-5 || v > 1 + 1e-5;

/** Greys that a ramp does not hold, or holds no number for, are computed exactly. */
function beyondRamp(pass: PointsPass, ramp: Ramp, rgb: Float32Array, count: number): void {
  const to = ramp.from + (ramp.length - 1) / ramp.density;
  for (let i = 0; i < count; i++) {
    const v = greys[i];
    if (v >= ramp.from && v <= to && !Number.isNaN(rgb[i * 3])) continue;
    rgb.fill(v, i * 3, i * 3 + 3);
    exactlyAt(pass, rgb, i * 3, null);
  }
}

/** The colours of a chunk through a pass, in place. */
function through(pass: PointsPass, rgb: Float32Array, count: number, ground: Float32Array | null): void {
  const { table } = pass;
  if (table.kind === 'grid') {
    const inside = toCodes(rgb, count, codes);
    const { channels } = table.grid;
    const read = channels === 1 ? greys : colours;
    const holes = readGrid(table.grid, codes, 0, count, read);
    if (channels === 1) spreadGrey(greys, count, colours);
    if (inside && !holes) {
      rgb.set(colours.subarray(0, count * 3));
      return;
    }
    for (let i = 0; i < count; i++) {
      const p = i * 3;
      const hole = !Number.isFinite(colours[p]);
      if (hole || outside(rgb[p]) || outside(rgb[p + 1]) || outside(rgb[p + 2])) {
        exactlyAt(pass, rgb, p, null);
      } else for (let k = p; k < p + 3; k++) rgb[k] = colours[k];
    }
  } else if (table.kind === 'ramp') {
    const { ramp, holes } = table;
    const inside = throughRamp(ramp, rgb, count, greys);
    if (!inside || holes) beyondRamp(pass, ramp, rgb, count);
  } else if (table.kind === 'compiled') {
    table.run(rgb.subarray(0, count * 3), null, pass.strength);
  } else if (table.kind === 'alike') {
    throughAlike(rgb, count, alike, pass.point, p => exactlyAt(pass, rgb, p, null));
  } else {
    for (let i = 0; i < count; i++) exactlyAt(pass, rgb, i * 3, ground);
  }
}

const lot: Gathered = {
  rgb: new Float32Array(CHUNK * 3),
  pixels: new Int32Array(CHUNK),
  weights: new Float32Array(CHUNK),
  count: 0,
};

/** Runs a pass over each colour of a region, in place, through its mask where it has one. */
export function runPoints(
  pass: PointsPass,
  rgb: Float32Array,
  region: Rectangle,
  ground: Float32Array | null,
  covered: Covered | null,
): void {
  const count = rgb.length / 3;
  const groundOf = pass.reads && !pass.onGround ? ground : null;
  if (!covered) {
    for (let from = 0; from < count; from += CHUNK) {
      const n = Math.min(CHUNK, count - from);
      const groundHere = groundOf && groundOf.subarray(from * 3, (from + n) * 3);
      through(pass, rgb.subarray(from * 3, (from + n) * 3), n, groundHere);
    }
    return;
  }
  const { table } = pass;
  if (table.kind === 'compiled') {
    inCoveredRows(rgb, region, covered, (part, weights) => table.run(part, weights, pass.strength));
    return;
  }
  gather(rgb, region, covered, lot, gathered => {
    if (groundOf) {
      for (let i = 0; i < gathered.count; i++) {
        const p = gathered.pixels[i] * 3;
        for (let k = 0; k < 3; k++) grounds[i * 3 + k] = groundOf[p + k];
      }
    }
    through(pass, gathered.rgb, gathered.count, groundOf && grounds);
    scatter(rgb, gathered, pass.strength);
  });
}

/** The first pass of a picture, straight from its codes: its table has no rounding between. */
export function startPoints(pass: PointsPass, source: Codes, rgb: Float32Array): void {
  const { table } = pass;
  const count = rgb.length / 3;
  if (table.kind === 'grid' && !pass.coverage) {
    if (table.grid.channels === 3) {
      if (readGrid(table.grid, source, 0, count, rgb)) mendColours(rgb, source, 0, count, pass.point);
    } else {
      for (let from = 0; from < count; from += CHUNK) {
        const n = Math.min(CHUNK, count - from);
        if (readGrid(table.grid, source, from, n, greys)) mendGreys(greys, source, from, n, pass.point);
        spreadGrey(greys, n, rgb.subarray(from * 3, (from + n) * 3));
      }
    }
    return;
  }
  readCodes(source, 0, count, rgb);
  runPoints(pass, rgb, { x: 0, y: 0, width: count, height: 1 }, null, null);
}
