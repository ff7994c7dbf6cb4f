import { gridNodes, readGrid, type Grid } from '../kernels/grid';
import { readRamp, type Ramp } from '../kernels/ramp';
import type { Point } from '../steps/define';
import { stepKind } from '../steps';
import type { Step, Treatment } from '../treatment/schema';
import { activeSteps, coversFully, exactly, layOn } from './lay';

/**
 * What a pass takes and leaves: `grid` takes 16-bit codes and leaves colours or greys; `ramp` takes greys
 * and leaves colours; `exact` works on colours one by one.
 */
export type Pass =
  { kind: 'grid'; grid: Grid } | { kind: 'ramp'; ramp: Ramp } | { kind: 'exact'; point: Point };

export interface Plan {
  passes: Pass[];
  /** Equal keys mean equal pixels for the same photograph. */
  key: string;
  /** Within the tolerance of the exact steps: always, but for a draft. */
  fine: boolean;
}

export interface PlanContext {
  /** The photograph has one number a pixel (R = G = B everywhere). */
  grey: boolean;
  /** How many pixels will be rendered: a table with more nodes than this costs more than it saves. */
  pixels: number;
  /** For a first answer: the coarsest tables, fine or not (typically within 1/255). */
  draft?: boolean;
}

/** The largest error of a baked table, in encoded units. */
const TOLERANCE = 0.5 / 255;
const GRID_SIZES = [33, 65, 97];
const RAMP_DENSITIES = [4096, 32768];
/** A ramp never holds more than this many entries, however far the greys reach beyond 0..1. */
const MOST_ENTRIES = 1 << 17;

/** Colours that a baked grid is checked on: a low-discrepancy set over the cube, and one over the darks. */
const CHECKS = 768;
const checkCodes = new Uint16Array(CHECKS * 3);
for (let i = 0; i < CHECKS; i++) {
  const dark = i % 3 === 0 ? 0.12 : 1;
  // Roberts' additive recurrence, from the plastic number of three dimensions.
  const at = [0.8191725134, 0.6710436067, 0.5497004779].map(a => (0.5 + (i + 1) * a) % 1);
  for (let k = 0; k < 3; k++) checkCodes[i * 3 + k] = Math.round(at[k] * dark * 65535);
}

function bakeGrid(points: readonly Point[], size: number, channels: 1 | 3): Grid {
  const nodes = gridNodes(size);
  const values = new Float32Array(size ** 3 * channels);
  const c = new Float64Array(3);
  let o = 0;
  for (let r = 0; r < size; r++) {
    for (let g = 0; g < size; g++) {
      for (let b = 0; b < size; b++) {
        c[0] = nodes[r];
        c[1] = nodes[g];
        c[2] = nodes[b];
        for (const point of points) point(c);
        for (let k = 0; k < channels; k++) values[o++] = c[k];
      }
    }
  }
  return { size, channels, values };
}

/** The largest error of a grid on the check colours, counting only what can be seen (0..1). */
function gridError(grid: Grid, points: readonly Point[]): number {
  const read = new Float32Array(CHECKS * grid.channels);
  readGrid(grid, checkCodes, 0, CHECKS, read);
  const c = new Float64Array(3);
  let worst = 0;
  for (let i = 0; i < CHECKS; i++) {
    for (let k = 0; k < 3; k++) c[k] = checkCodes[i * 3 + k] / 65535;
    for (const point of points) point(c);
    for (let k = 0; k < grid.channels; k++) {
      worst = Math.max(worst, Math.abs(clip(read[i * grid.channels + k]) - clip(c[k])));
    }
  }
  return worst;
}

const clip = (v: number) => Math.min(1, Math.max(0, v));

function bakeRamp(points: readonly Point[], from: number, to: number, density: number): Ramp {
  const length = Math.min(MOST_ENTRIES, Math.ceil((to - from) * density) + 2);
  const fits = (length - 1) / (to - from);
  const values = new Float32Array(length * 3);
  const c = new Float64Array(3);
  for (let i = 0; i < length; i++) {
    c.fill(from + i / fits);
    for (const point of points) point(c);
    values.set(c, i * 3);
  }
  return { from, density: fits, length, values };
}

/** The largest error of a ramp halfway between every few of its entries. */
function rampError(ramp: Ramp, points: readonly Point[]): number {
  const grey = new Float32Array(1);
  const read = new Float32Array(3);
  const c = new Float64Array(3);
  let worst = 0;
  for (let i = 0; i < ramp.length - 1; i += 3) {
    grey[0] = ramp.from + (i + 0.5) / ramp.density;
    readRamp(ramp, grey, 1, read);
    c.fill(grey[0]);
    for (const point of points) point(c);
    for (let k = 0; k < 3; k++) worst = Math.max(worst, Math.abs(clip(read[k]) - clip(c[k])));
  }
  return worst;
}

const exactPass = (points: readonly Point[]): Pass => ({
  kind: 'exact',
  point: c => {
    for (const point of points) point(c);
  },
});

/** How many of the grid sizes are worth baking for a picture. */
const gridsFor = ({ pixels }: PlanContext) => GRID_SIZES.filter(size => size ** 3 <= pixels).length;

interface Baked {
  pass: Pass;
  fine: boolean;
}

/** Bakes for ever finer settings until the error is small enough; `next` is asked only when it is needed. */
interface Ladder {
  rungs: number;
  bake: (rung: number) => Baked;
}

const gridLadder = (points: readonly Point[], channels: 1 | 3, context: PlanContext): Ladder => ({
  rungs: gridsFor(context),
  bake: rung => {
    const grid = bakeGrid(points, GRID_SIZES[rung], channels);
    return { pass: { kind: 'grid', grid }, fine: gridError(grid, points) <= TOLERANCE };
  },
});

const rampLadder = (points: readonly Point[], from: number, to: number): Ladder => ({
  rungs: RAMP_DENSITIES.length,
  bake: rung => {
    const ramp = bakeRamp(points, from, to, RAMP_DENSITIES[rung]);
    return { pass: { kind: 'ramp', ramp }, fine: rampError(ramp, points) <= TOLERANCE };
  },
});

/** Steps of grey to which a ramp's ends are widened, so that it is not baked anew for every small change. */
const SPAN_STEP = 0.5;

/** The greys that a grid leaves, at least 0..1, widened to whole steps. */
function greySpan(pass: Pass): [number, number] {
  if (pass.kind !== 'grid') return [0, 1];
  let from = 0;
  let to = 1;
  for (const v of pass.grid.values) {
    if (v < from) from = v;
    if (v > to) to = v;
  }
  return [Math.floor(from / SPAN_STEP) * SPAN_STEP, Math.ceil(to / SPAN_STEP) * SPAN_STEP];
}

/** How many of the first steps it takes until the picture is grey; 0 where it never is. */
function stepsUntilGrey(steps: readonly Step[]): number {
  return steps.findIndex(s => coversFully(s) && stepKind(s.kind)?.leavesGrey) + 1;
}

/** What makes a step's pixels: its name, id and place on the line do not. */
const pixelKey = ({ kind, strength, mix, reach, settings }: Step) => ({
  kind,
  strength,
  mix,
  reach,
  settings,
});

export type Planner = (treatment: Treatment, context: PlanContext) => Plan;

/**
 * A planner that keeps its last baked tables, so that moving one control bakes only what it changes.
 * The plan bakes runs of point steps: into a 3D table while the picture has colour, into a 1D table once
 * one number a pixel is left. Each table is checked against the exact steps; where the error passes
 * 0.5/255 a finer one is baked, and where that fails too, or where the picture is smaller than the table, the
 * steps run exactly.
 */
export function createPlanner(keep = 32): Planner {
  const kept = new Map<string, Baked>();
  const remember = (key: string, make: () => Baked): Baked => {
    const baked = kept.get(key) ?? make();
    kept.delete(key);
    kept.set(key, baked);
    if (kept.size > keep) kept.delete(kept.keys().next().value!);
    return baked;
  };
  /** The coarsest pass that is fine; for a draft the coarsest; exact where no table serves. */
  const climb = (of: string, points: readonly Point[], ladder: Ladder, draft: boolean): Baked => {
    for (let rung = 0; rung < ladder.rungs; rung++) {
      const baked = remember(`${rung} ${of}`, () => ladder.bake(rung));
      if (baked.fine || draft) return baked;
    }
    return { pass: exactPass(points), fine: true };
  };

  return (treatment, context) => {
    const { grey, draft = false } = context;
    const steps = activeSteps(treatment);
    const key = JSON.stringify([grey, treatment.strength, steps.map(pixelKey)]);
    const made: Baked[] = [];
    const ramp = (of: unknown, points: readonly Point[], from: number, to: number) =>
      made.push(climb(JSON.stringify(['ramp', from, to, of]), points, rampLadder(points, from, to), draft));
    const grid = (of: unknown, points: readonly Point[], channels: 1 | 3) =>
      made.push(
        climb(JSON.stringify(['grid', channels, of]), points, gridLadder(points, channels, context), draft),
      );

    if (steps.length && treatment.strength < 1) {
      const points = [exactly(treatment)];
      if (grey) ramp(key, points, 0, 1);
      else grid(key, points, 3);
    } else {
      const until = stepsUntilGrey(steps);
      const coloured = grey ? 0 : until || steps.length;
      const before = steps.slice(0, coloured);
      const after = steps.slice(coloured);
      if (before.length) grid(before.map(pixelKey), before.map(layOn), until > 0 ? 1 : 3);
      if (after.length) {
        const [from, to] = before.length ? greySpan(made[0].pass) : [0, 1];
        ramp(after.map(pixelKey), after.map(layOn), from, to);
      }
    }
    const fine = made.every(m => m.fine);
    return { passes: made.map(m => m.pass), key: fine ? key : `draft ${key}`, fine };
  };
}
