import { readCodes } from '../kernels/codes';
import type { Codes } from '../kernels/grid';
import { cut, drawBack, layAlone, layNormal, layThrough, partOfCovered, type Covered } from '../kernels/lay';
import type { Sight } from '../masks/finding/sight';
import type { StrokeMemory } from '../masks/laid-strokes';
import type { Region } from '../steps/define';
import type { Geometry, Rectangle } from '../frame/geometry';
import { isPlain, layer } from './lay';
import type { Pass } from './pass';
import type { Plan } from './plan';
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
  /** What lies beneath steps that are laid on together, while they run. */
  held: Float32Array | null;
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
export function surveyFor(
  pass: Pass,
  working: Working,
  whole: Rectangle,
  geometry: Geometry,
  sight?: Sight,
): PassSurvey {
  return {
    field: pass.kind === 'field' ? pass.field.survey?.(regionOf(working, whole, geometry)) : undefined,
    mask: pass.coverage?.survey?.(whole, geometry, { ...inputOf(working, pass.onGround), sight }),
  };
}

const nothingPlaced = new Float32Array(0);
const none = { beneath: nothingPlaced, ground: nothingPlaced };
/** The same where something is kept between runs: then strokes are remembered as well. */
const remembering = { ...none, memory: new Map() satisfies StrokeMemory };

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
  if (pass.kind === 'open') {
    working.held = working.rgb.slice();
    return;
  }
  if (pass.kind === 'close') {
    const { held, rgb } = working;
    if (held) layNormal(rgb, held, part, null, 1 - pass.strength);
    working.held = null;
    return;
  }
  if (pass.kind === 'alone') {
    const alone = pass.coverage.of(part, geometry, inputOf(working, pass.onGround), survey.mask);
    layAlone(working.rgb, part, alone);
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
  const inward = pass.coverage?.inward?.(working.rgb, part, geometry, survey.mask);
  if (inward) {
    layInward(working, inward, () => runOn(pass, working, part, geometry, survey, placed, covered));
  } else runOn(pass, working, part, geometry, survey, placed, covered);
}

/** Lays on what a step makes of another picture than the one beneath it. */
function layInward(working: Working, inward: Float32Array, run: () => void): void {
  const beneath = working.rgb;
  const asked = inward.slice();
  working.rgb = inward;
  run();
  const { rgb } = working;
  for (let i = 0; i < rgb.length; i++) beneath[i] += rgb[i] - asked[i];
  if (rgb !== inward) working.spare = rgb;
  working.rgb = beneath;
}

/** Runs a pass of points or a field over what lies in `working`. */
function runOn(
  pass: Extract<Pass, { kind: 'points' | 'field' }>,
  working: Working,
  part: Rectangle,
  geometry: Geometry,
  survey: PassSurvey,
  placed: Placed,
  covered: Covered | null,
): void {
  if (pass.kind === 'points') {
    runPoints(pass, working.rgb, part, working.ground, covered);
    return;
  }
  const { step, field } = pass;
  const region = regionOf(working, part, geometry);
  const plane = placed.plane ?? field.placed?.(region) ?? nothingPlaced;
  const plain = isPlain(step);
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
  held: Float32Array | null;
}

/** What is kept of a part between runs. */
export interface Keeping {
  checkpoint?: Checkpoint;
  /** After how many passes the state is to be kept; null for none. */
  keepAt: number | null;
  /** What depends on the place alone, by what else it depends on. */
  placed: Map<string, unknown>;
  /** Only this rectangle of the part is wanted; heeded where the state that is kept can serve for it. */
  only?: Rectangle;
}

/** How many of a plan's passes a checkpoint has behind it; -1 where it belongs to another plan. */
export function passesBehind(plan: Plan, checkpoint: Checkpoint | undefined): number {
  if (!checkpoint || checkpoint.keys.length > plan.passes.length) return -1;
  return checkpoint.keys.every((key, i) => key === plan.passes[i].key) ? checkpoint.keys.length : -1;
}

/** What the passes of a plan find from the place alone over a rectangle of a part: cut from what is kept, or new. */
function placedIn(
  plan: Plan,
  behind: number,
  part: Rectangle,
  only: Rectangle,
  geometry: Geometry,
  kept: ReadonlyMap<string, unknown>,
): Placed[] {
  const region = { ...only, scale: geometry, placeOf: geometry.placeOf };
  return plan.passes.map((pass, i): Placed => {
    if (i < behind) return {};
    const found: Placed = {};
    const { coverage, maskKey, placedKey } = pass;
    if (coverage?.placed && maskKey !== undefined) {
      const known = kept.get(maskKey) as { of: Covered | null } | undefined;
      found.covered = known
        ? known.of && partOfCovered(known.of, only)
        : coverage.of(only, geometry, remembering, undefined);
    }
    if (pass.kind === 'field' && pass.field.placed && placedKey !== undefined) {
      const known = kept.get(placedKey) as Float32Array | undefined;
      found.plane = known ? cut(known, part, only, 1) : pass.field.placed(region);
    }
    return found;
  });
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
  const placed = plan.passes.map((pass, i): Placed => {
    if (i < behind) {
      // Not asked for now, but soon perhaps again.
      for (const key of [pass.maskKey, pass.placedKey]) {
        if (key !== undefined && kept?.has(key)) asked.set(key, kept.get(key));
      }
      return {};
    }
    const { coverage, maskKey } = pass;
    const found: Placed = {};
    if (coverage?.placed && maskKey !== undefined) {
      const { of } = find(maskKey, () => ({
        of: coverage.of(part, geometry, kept ? remembering : none, undefined),
      }));
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

/** Whether any rectangle of a part can be run alone: no pass looks at neighbours, nor its mask at the picture. */
function runsAnywhere(plan: Plan, geometry: Geometry): boolean {
  const alone = plan.passes.every(p => !p.coverage || p.coverage.placed);
  return alone && plan.margin(geometry) === 0;
}

let first = new Float32Array(0);
let second = new Float32Array(0);

/**
 * Runs a plan over a part of the framed picture, some rows at a time.
 * @param codes of the part, which holds its margin
 * @param onBand gets encoded RGB of some rows, to be used before it returns, and where they lie
 * @returns the state that was to be kept
 */
export function runPlan(
  plan: Plan,
  codes: Codes,
  part: Rectangle,
  geometry: Geometry,
  surveys: Surveys,
  onBand: (rgb: Float32Array, band: Rectangle) => void,
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
        : {
            keys: passes.slice(0, keepAt).map(p => p.key),
            rgb: new Float32Array(length),
            ground: null,
            held: null,
          };
  }
  const anywhere = runsAnywhere(plan, geometry);
  const only = keeping?.only && anywhere && kept === start ? keeping.only : part;
  if (only.width <= 0 || only.height <= 0) return kept;
  const placed =
    only === part
      ? placedOver(plan, behind, part, geometry, keeping?.placed)
      : placedIn(plan, behind, part, only, geometry, keeping!.placed);
  const rows = anywhere ? Math.max(1, Math.floor(BAND / only.width)) : only.height;
  const most = Math.min(rows, only.height) * only.width * 3;
  if (first.length < most) {
    first = new Float32Array(most);
    second = new Float32Array(most);
  }

  for (let row = 0; row < only.height; row += rows) {
    const height = Math.min(rows, only.height - row);
    const band = { x: only.x, y: only.y + row, width: only.width, height };
    const count = band.width * height * 3;
    const working: Working = {
      rgb: first.subarray(0, count),
      spare: second.subarray(0, count),
      ground: null,
      held: null,
    };
    let i = behind;
    const keepHere = () => {
      if (!kept || kept === start || keepAt !== i) return;
      // Then all of the part is run.
      const from = row * part.width * 3;
      kept.rgb.set(working.rgb, from);
      for (const what of ['ground', 'held'] as const) {
        const there = working[what];
        if (!there) continue;
        kept[what] ??= new Float32Array(length);
        kept[what].set(there, from);
      }
    };
    const source = cut(codes, part, band, 3);
    if (start) {
      working.rgb.set(cut(start.rgb, part, band, 3));
      working.ground = start.ground && cut(start.ground, part, band, 3);
      working.held = start.held && cut(start.held, part, band, 3);
    } else {
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
        covered: covered && partOfCovered(covered, band),
        plane: plane && cut(plane, only, band, 1),
      });
      i++;
      keepHere();
    }
    if (plan.strength < 1) drawBack(working.rgb, source, plan.strength);
    onBand(working.rgb, band);
  }
  return kept;
}
