import { readCodes } from '../kernels/codes';
import type { Sight } from '../masks/finding/sight';
import type { Codes } from '../kernels/grid';
import type { Geometry } from '../frame/geometry';
import type { Plan } from './plan';
import { runPass, surveyFor, type PassSurvey, type Surveys, type Working } from './run';

/** The long edge of the photograph at which the whole picture is looked at; smaller pictures as they are. */
export const SURVEY_EDGE = 1024;

/** The long edge for the survey of a picture that is rendered at some long edge. */
export const surveyEdge = (renderedEdge: number): number => Math.min(SURVEY_EDGE, renderedEdge);

interface Known {
  /** Of all passes before the one that was surveyed, and of its own survey, what they depend on: with the tables, and without. */
  keys: string[];
  does: string[];
  survey: PassSurvey;
  /** The picture beneath that pass. */
  rgb: Float32Array;
  ground: Float32Array | null;
  held: Float32Array | null;
}

/** Finds kept beside those of the last plan: of a draft and the fine picture after it, of a treatment and of what shows while a control is held. */
const MOST_KNOWN = 4;

/** Looks at the whole picture on behalf of a plan's passes; with the photograph's sight where the plan wants it. */
export type Surveyor = (plan: Plan, sight?: Sight) => Surveys;

/**
 * A surveyor of one photograph at one size and frame: keeps what it found, so that a change looks again only
 * from where it was made. A draft is content with what was found by other tables.
 * @param codes the whole framed picture at the survey's size
 */
export function createSurveyor(codes: Codes, geometry: Geometry): Surveyor {
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  /** Those used last at the end. */
  let known: Known[] = [];
  return ({ passes, fine }, sight) => {
    const wants = passes.map(p => (p.kind === 'field' && p.field.survey) || p.coverage?.survey);
    const last = wants.findLastIndex(Boolean);
    const surveys: PassSurvey[] = passes.map(() => ({}));
    if (last < 0) return surveys;

    const keys = passes.map(p => p.key);
    const does = passes.map(p => p.does);
    const upTo = (all: readonly string[], i: number) => [...all.slice(0, i), passes[i].surveyKey ?? all[i]];
    const starts = (all: readonly string[], of: readonly string[], count: number) =>
      count <= of.length && all.slice(0, count).every((key, i) => key === of[i]);
    /** Whether a find's picture is what lies beneath pass i. */
    const liesBeneath = (k: Known, i: number) =>
      k.keys.length === i + 1 && (starts(k.keys, keys, i) || (!fine && starts(k.does, does, i)));
    const isOf = (k: Known, i: number) =>
      liesBeneath(k, i) && (k.keys[i] === upTo(keys, i)[i] || (!fine && k.does[i] === upTo(does, i)[i]));
    const found = passes.map((_, i) => (wants[i] ? known.findLast(k => isOf(k, i)) : undefined));
    found.forEach((k, i) => k && (surveys[i] = k.survey));
    const used = found.filter(k => k !== undefined);
    known = [...known.filter(k => !used.includes(k)).slice(-MOST_KNOWN), ...used];
    if (found[last]) return surveys;
    // From the furthest picture that still serves: that beneath a pass serves where all before it is the same.
    const from = known
      .filter(k => k.keys.length - 1 <= last && liesBeneath(k, k.keys.length - 1))
      .reduce<Known | null>((best, k) => (best && best.keys.length > k.keys.length ? best : k), null);
    const working: Working = { rgb: new Float32Array(0), ground: null, held: null };
    let i = 0;
    if (from) {
      working.rgb = from.rgb.slice();
      working.ground = from.ground;
      working.held = from.held;
      i = from.keys.length - 1;
    } else {
      working.rgb = new Float32Array(codes.length);
      readCodes(codes, 0, codes.length / 3, working.rgb);
    }
    for (; i <= last; i++) {
      if (wants[i] && !found[i]) {
        const survey = surveyFor(passes[i], working, whole, geometry, sight);
        surveys[i] = survey;
        known.push({
          keys: upTo(keys, i),
          does: upTo(does, i),
          survey,
          rgb: working.rgb.slice(),
          ground: working.ground,
          held: working.held,
        });
      }
      if (i < last) runPass(passes[i], working, whole, geometry, surveys[i]);
    }
    return surveys;
  };
}
