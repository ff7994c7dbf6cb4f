import type { Coverage } from '../masks/coverage';
import type { Field, Point, StepContext } from '../steps/define';
import type { Step } from '../treatment/treatment';
import type { Table } from './bake';

/**
 * One thing done to a picture.
 * - `points`: each colour by itself, through a table or exactly, through a mask where there is one;
 * - `field`: a step that needs more than each colour, laid on through its mask;
 * - `alone`: the coverage of a mask in place of the picture, white on black;
 * - `ground`: what is there now is kept as the photograph with only its Ground steps;
 * - `open`: what is there now is held, as what lies beneath steps that are laid on together;
 * - `close`: what they made is laid on what is held, by their strength.
 */
export type Pass = {
  key: string;
  /** What it does, whatever tables it does it through. */
  does: string;
  /** What its survey depends on, beside the passes before it. */
  surveyKey?: string;
  /** What its mask depends on, where that is the place alone. */
  maskKey?: string;
  /** What the field's `placed` depends on. */
  placedKey?: string;
} & (
  | {
      kind: 'points';
      table: Table;
      /** The exact function, for colours that a table does not hold. */
      point: Point;
      coverage: Coverage | null;
      /** How far what the point gives is laid on through the mask, 0..1; where there is none it is in the point. */
      strength: number;
      /** The context whose ground is set before `point` is asked; null where no step of the run reads it. */
      reads: StepContext | null;
      /** What is beneath counts as the ground: the step stands in the Ground stage. */
      onGround: boolean;
    }
  | {
      kind: 'field';
      field: Field;
      step: Step;
      coverage: Coverage | null;
      onGround: boolean;
      /** It only makes the picture ready for the points after it, and leaves it a picture of codes. */
      prepares?: true;
    }
  | { kind: 'alone'; coverage: Coverage; onGround: boolean }
  | { kind: 'ground'; coverage: null }
  | { kind: 'open'; coverage: null }
  | { kind: 'close'; coverage: null; strength: number }
);
