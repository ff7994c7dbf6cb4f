import { readCodes } from '../kernels/codes';
import type { Codes } from '../kernels/grid';
import { drawBack, layNormal, layThrough, type Covered } from '../kernels/lay';
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
  ground: Float32Array | null;
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

/** Runs one pass over a region, in place. */
export function runPass(
  pass: Pass,
  working: Working,
  part: Rectangle,
  geometry: Geometry,
  survey: PassSurvey,
): void {
  if (pass.kind === 'ground') {
    working.ground = working.rgb.slice();
    return;
  }
  let covered: Covered | null = null;
  if (pass.coverage) {
    covered = pass.coverage.of(part, geometry, inputOf(working, pass.onGround), survey.mask);
    if (!covered) return;
  }
  if (pass.kind === 'points') {
    runPoints(pass, working.rgb, part, working.ground, covered);
    return;
  }
  const own = new Float32Array(working.rgb.length);
  const { step } = pass;
  pass.field.own(regionOf(working, part, geometry), survey.field, own);
  const plain = step.mix === 'normal' && isWhole(step.reach.own) && isWhole(step.reach.beneath);
  if (plain && step.strength === 1 && !covered) working.rgb = own;
  else if (plain) layNormal(working.rgb, own, part, covered, step.strength);
  else layThrough(working.rgb, own, part, covered, layer(step));
}

/** A state of a part that is kept, so that a change further on starts from it. */
export interface Checkpoint {
  /** Keys of the passes that led to it. */
  keys: string[];
  rgb: Float32Array;
  ground: Float32Array | null;
}

/** How many of a plan's passes a checkpoint has behind it; -1 where it belongs to another plan. */
export function passesBehind(plan: Plan, checkpoint: Checkpoint | undefined): number {
  if (!checkpoint || checkpoint.keys.length > plan.passes.length) return -1;
  return checkpoint.keys.every((key, i) => key === plan.passes[i].key) ? checkpoint.keys.length : -1;
}

/**
 * Runs a plan over a part of the framed picture.
 * @param codes of the part, which holds its margin
 * @param keepAt after how many passes the state is to be kept; null for none
 * @returns encoded RGB of the part, and the state that was kept
 */
export function runPlan(
  plan: Plan,
  codes: Codes,
  part: Rectangle,
  geometry: Geometry,
  surveys: Surveys,
  checkpoint?: Checkpoint,
  keepAt: number | null = null,
): { rgb: Float32Array; kept?: Checkpoint } {
  const { passes } = plan;
  const behind = Math.max(0, passesBehind(plan, checkpoint));
  let kept = behind > 0 && keepAt === behind ? checkpoint : undefined;
  const working: Working = { rgb: new Float32Array(0), ground: null };
  let i = behind;
  if (behind > 0) {
    working.rgb = checkpoint!.rgb.slice();
    working.ground = checkpoint!.ground;
  } else {
    working.rgb = new Float32Array(codes.length);
    const [first] = passes;
    if (first?.kind === 'points' && !first.coverage && !first.reads) {
      startPoints(first, codes, working.rgb);
      i = 1;
    } else readCodes(codes, 0, codes.length / 3, working.rgb);
  }
  const keepHere = () => {
    if (keepAt === i && i > 0 && !kept) {
      kept = {
        keys: passes.slice(0, i).map(p => p.key),
        rgb: working.rgb.slice(),
        ground: working.ground,
      };
    }
  };
  keepHere();
  while (i < passes.length) {
    runPass(passes[i], working, part, geometry, surveys[i] ?? {});
    i++;
    keepHere();
  }
  if (plan.strength < 1) drawBack(working.rgb, codes, plan.strength);
  return { rgb: working.rgb, kept };
}
