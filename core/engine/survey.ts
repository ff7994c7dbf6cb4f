import { readCodes } from '../kernels/codes';
import type { Codes } from '../kernels/grid';
import type { Geometry } from '../frame/geometry';
import type { Plan } from './plan';
import { runPass, surveyFor, type PassSurvey, type Surveys, type Working } from './run';

/** The long edge of the photograph at which the whole picture is looked at; smaller pictures as they are. */
export const SURVEY_EDGE = 1024;

/** The long edge for the survey of a picture that is rendered at some long edge. */
export const surveyEdge = (renderedEdge: number): number => Math.min(SURVEY_EDGE, renderedEdge);

interface Known {
  /** Keys of all passes before the one that was surveyed, and what its own survey depends on. */
  keys: string[];
  survey: PassSurvey;
  /** The picture beneath that pass. */
  rgb: Float32Array;
  ground: Float32Array | null;
  held: Float32Array | null;
}

/**
 * A surveyor of one photograph at one size and frame: keeps what it found, so that a change looks again only
 * from where it was made.
 * @param codes the whole framed picture at the survey's size
 */
export function createSurveyor(codes: Codes, geometry: Geometry): (plan: Plan) => Surveys {
  const whole = { x: 0, y: 0, width: geometry.width, height: geometry.height };
  let known: Known[] = [];
  return plan => {
    const { passes } = plan;
    const wants = passes.map(p => (p.kind === 'field' && p.field.survey) || p.coverage?.survey);
    const last = wants.findLastIndex(Boolean);
    const surveys: PassSurvey[] = passes.map(() => ({}));
    if (last < 0) return surveys;

    const agrees = (k: Known, count: number) =>
      count <= passes.length && k.keys.slice(0, count).every((key, i) => key === passes[i].key);
    const own = (i: number) => passes[i].surveyKey ?? passes[i].key;
    const good = known.filter(k => {
      const i = k.keys.length - 1;
      return i < passes.length && agrees(k, i) && k.keys[i] === own(i);
    });
    for (const k of good) surveys[k.keys.length - 1] = k.survey;
    if (good.some(k => k.keys.length - 1 === last)) return surveys;
    // From the furthest picture that still serves: that beneath a pass serves where all before it is the same.
    const from = known.findLast(k => k.keys.length - 1 <= last && agrees(k, k.keys.length - 1));
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
    known = good;
    for (; i <= last; i++) {
      if (wants[i] && !known.some(k => k.keys.length === i + 1)) {
        const survey = surveyFor(passes[i], working, whole, geometry);
        surveys[i] = survey;
        known.push({
          keys: [...passes.slice(0, i).map(p => p.key), own(i)],
          survey,
          rgb: working.rgb.slice(),
          ground: working.ground,
          held: working.held,
        });
      }
      if (i < last) runPass(passes[i], working, whole, geometry, surveys[i]);
    }
    known.sort((a, b) => a.keys.length - b.keys.length);
    return surveys;
  };
}
