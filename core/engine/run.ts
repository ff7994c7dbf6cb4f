import { readCodes } from '../kernels/codes';
import type { Codes } from '../kernels/grid';
import { drawBack, layNormal, layThrough, rowsOfCovered, type Covered } from '../kernels/lay';
import { isWhole } from '../masks/reach';
import type { Region } from '../steps/define';
import type { Geometry, Rectangle } from './geometry';
import { layer } from './lay';
import type { Pass, Plan } from './plan';
import { runPoints, startPoints } from './points';

/** What passes found in the whole picture, small, before any part is rendered: by their place in the plan. */
export type Surveys = readonly PassSurvey[];
export interface PassSurvey {
  field?: unknown;
  mask?: unknown;
}

/** A picture in the middle of its treatment. */
export interface Working {
  rgb: Float32Array;
  /** Room for what a step makes of it, as long; made where it is needed. */
  spare?: Float32Array;
  ground: Float32Array | null;
}

/** What a pass found from the place alone, for the region that it runs over. */
interface Placed {
  covered?: Covered | null;
  plane?: Float32Array;
}

function regionOf(working: Working, part: Rectangle, geometry: Geometry): Region {
  return { ...part, rgb: working.rgb, scale: geometry, placeOf: geometry.placeOf };
}

/** What a mask is read from: what is beneath, and the photograph with its Ground steps. */
function inputOf(working: Working, onGround: boolean) {
  const { rgb, ground } = working;
  return { beneath: rgb, ground: onGround || !ground ? rgb : ground };
}

/** Looks at the whole picture on behalf of one pass. */
export function surveyFor(pass: Pass, working: Working, whole: Rectangle, geometry: Geometry): PassSurvey {
  if (pass.kind === 'ground') return {};
  return {
    field: pass.kind === 'field' ? pass.field.survey?.(regionOf(working, whole, geometry)) : undefined,
    mask: pass.coverage?.survey?.(whole, geometry, inputOf(working, pass.onGround)),
  };
}

const nothingPlaced = new Float32Array(0);

/** Runs one pass over a region, in place. */
export function runPass(
  pass: Pass,
  working: Working,
  part: Rectangle,
  geometry: Geometry,
  survey: PassSurvey,
  placed: Placed = {},
): void {
  if (pass.kind === 'ground') {
    working.ground = working.rgb.slice();
    return;
  }
  let covered: Covered | null = null;
  if (pass.coverage) {
    covered =
      placed.covered !== undefined
        ? placed.covered
        : pass.coverage.of(part, geometry, inputOf(working, pass.onGround), survey.mask);
    if (!covered) return;
  }
  if (pass.kind === 'points') {
    runPoints(pass, working.rgb, part, working.ground, covered);
    return;
  }
  const { step, field } = pass;
  const region = regionOf(working, part, geometry);
  const plane = placed.plane ?? field.placed?.(region) ?? nothingPlaced;
  const plain = step.mix === 'normal' && isWhole(step.reach.own) && isWhole(step.reach.beneath);
  const replaces = plain && step.strength === 1 && !covered;
  if (replaces && field.inPlace) {
    field.own(region, survey.field, working.rgb, plane);
    return;
  }
  const own = working.spare ?? new Float32Array(working.rgb.length);
  field.own(region, survey.field, own, plane);
  if (replaces) {
    working.spare = working.rgb;
    working.rgb = own;
  } else if (plain) layNormal(working.rgb, own, part, covered, step.strength);
  else layThrough(working.rgb, own, part, covered, layer(step));
}

/** A state of a part that is kept, so that a change further on starts from it. */
export interface Checkpoint {
  /** Keys of the passes that led to it. */
  keys: string[];
  rgb: Float32Array;
  ground: Float32Array | null;
}

/** What is kept of a part between runs. */
export interface Keeping {
  checkpoint?: Checkpoint;
  /** After how many passes the state is to be kept; null for none. */
  keepAt: number | null;
  /** What depends on the place alone, by what else it depends on. */
  placed: Map<string, unknown>;
  /** Only these rows of the part are wanted; heeded where the state that is kept can serve for them. */
  rows?: { from: number; to: number };
}

/** How many of a plan's passes a checkpoint has behind it; -1 where it belongs to another plan. */
export function passesBehind(plan: Plan, checkpoint: Checkpoint | undefined): number {
  if (!checkpoint || checkpoint.keys.length > plan.passes.length) return -1;
  return checkpoint.keys.every((key, i) => key === plan.passes[i].key) ? checkpoint.keys.length : -1;
}

/** What the passes of a plan find from the place alone over a part, new or kept; what no pass asks for is dropped. */
function placedOver(
  plan: Plan,
  behind: number,
  part: Rectangle,
  geometry: Geometry,
  kept: Map<string, unknown> | undefined,
): Placed[] {
  const asked = new Map<string, unknown>();
  const find = <T>(key: string, make: () => T): T => {
    const found = (asked.get(key) ?? kept?.get(key) ?? make()) as T;
    asked.set(key, found);
    return found;
  };
  const none = { beneath: nothingPlaced, ground: nothingPlaced };
  const placed = plan.passes.map((pass, i): Placed => {
    if (pass.kind === 'ground' || i < behind) {
      // Not asked for now, but soon perhaps again.
      for (const key of pass.kind === 'ground' ? [] : [pass.maskKey, pass.placedKey]) {
        if (key !== undefined && kept?.has(key)) asked.set(key, kept.get(key));
      }
      return {};
    }
    const { coverage, maskKey } = pass;
    const found: Placed = {};
    if (coverage?.placed && maskKey !== undefined) {
      const { of } = find(maskKey, () => ({ of: coverage.of(part, geometry, none, undefined) }));
      found.covered = of;
    }
    // Where nothing is kept, it is made band by band.
    if (kept && pass.kind === 'field' && pass.field.placed && pass.placedKey !== undefined) {
      const { field } = pass;
      const region = { ...part, scale: geometry, placeOf: geometry.placeOf };
      found.plane = find(pass.placedKey, () => field.placed!(region));
    }
    return found;
  });
  if (kept) {
    kept.clear();
    for (const [key, value] of asked) kept.set(key, value);
  }
  return placed;
}

/** Pixels of a band: what a run works on stays in the processor's cache. */
const BAND = 12_288;

/** Rows that are worked on at a time: all, where a pass looks at neighbours or its mask at the picture. */
function rowsAtATime(plan: Plan, part: Rectangle, geometry: Geometry): number {
  const alone = plan.passes.every(p => p.kind === 'ground' || !p.coverage || p.coverage.placed);
  return alone && plan.margin(geometry) === 0 ? Math.max(1, Math.floor(BAND / part.width)) : part.height;
}

let first = new Float32Array(0);
let second = new Float32Array(0);

/**
 * Runs a plan over a part of the framed picture, some rows at a time.
 * @param codes of the part, which holds its margin
 * @param onRows gets encoded RGB of some rows, to be used before it returns; rows are counted from the part's first
 * @returns the state that was to be kept
 */
export function runPlan(
  plan: Plan,
  codes: Codes,
  part: Rectangle,
  geometry: Geometry,
  surveys: Surveys,
  onRows: (rgb: Float32Array, row: number, rows: number) => void,
  keeping?: Keeping,
): Checkpoint | undefined {
  const { passes } = plan;
  const behind = Math.max(0, passesBehind(plan, keeping?.checkpoint));
  const start = behind > 0 ? keeping!.checkpoint! : null;
  const keepAt = keeping?.keepAt || null;
  const length = part.width * part.height * 3;
  let kept: Checkpoint | undefined;
  if (keepAt !== null && keepAt <= passes.length) {
    kept =
      start && keepAt === behind
        ? start
        : { keys: passes.slice(0, keepAt).map(p => p.key), rgb: new Float32Array(length), ground: null };
  }
  const placed = placedOver(plan, behind, part, geometry, keeping?.placed);
  const rows = rowsAtATime(plan, part, geometry);
  const most = Math.min(rows, part.height) * part.width * 3;
  if (first.length < most) {
    first = new Float32Array(most);
    second = new Float32Array(most);
  }

  const some = keeping?.rows && rows < part.height && kept === start ? keeping.rows : undefined;
  const end = some?.to ?? part.height;
  for (let row = some?.from ?? 0; row < end; row += rows) {
    const height = Math.min(rows, end - row);
    const band = { x: part.x, y: part.y + row, width: part.width, height };
    const from = row * part.width * 3;
    const to = from + height * part.width * 3;
    const working: Working = {
      rgb: first.subarray(0, to - from),
      spare: second.subarray(0, to - from),
      ground: null,
    };
    let i = behind;
    const keepHere = () => {
      if (!kept || kept === start || keepAt !== i) return;
      kept.rgb.set(working.rgb, from);
      if (!working.ground) return;
      kept.ground ??= new Float32Array(length);
      kept.ground.set(working.ground, from);
    };
    if (start) {
      working.rgb.set(start.rgb.subarray(from, to));
      working.ground = start.ground && start.ground.subarray(from, to);
    } else {
      const source = codes.subarray(from, to);
      const [opening] = passes;
      if (opening?.kind === 'points' && !opening.coverage && !opening.reads) {
        startPoints(opening, source, working.rgb);
        i = 1;
      } else readCodes(source, 0, source.length / 3, working.rgb);
    }
    keepHere();
    for (; i < passes.length;) {
      const { covered, plane } = placed[i];
      runPass(passes[i], working, band, geometry, surveys[i] ?? {}, {
        covered: covered && rowsOfCovered(covered, band),
        plane: plane?.subarray(from / 3, to / 3),
      });
      i++;
      keepHere();
    }
    if (plan.strength < 1) drawBack(working.rgb, codes.subarray(from, to), plan.strength);
    onRows(working.rgb, row, height);
  }
  return kept;
}
