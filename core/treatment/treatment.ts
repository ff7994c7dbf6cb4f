import type { Mix } from '../colour/mixes';
import { wholeFrame, type Frame } from '../frame/frame';
import type { Mask } from '../masks/mask';
import type { Reference, ToneRange } from '../settings/fields';
import type { Kind, Settings } from '../steps';
import type { Stage } from '../steps/define';
import type { Alternative } from './trays';

/**
 * What a treatment is, wherever it is worked with. It is read from outside by ./schema alone, so that what renders needs no
 * schema library.
 */

/** The treatment format, version 1. */
export const FORMAT = 'lampwash-treatment';
export const VERSION = 1;

/** Where a step comes from that follows a look which its series shares. */
export interface StepLook {
  id: string;
  /** The revision of the look that the step is as. */
  revision: number;
  /** Which of the look's steps it is. */
  step: string;
  /** What stays as it is here, whatever becomes of the look: settings by their names, and `step.strength` and the like. */
  changed: string[];
}

export interface Step<K extends Kind = Kind> {
  id: string;
  kind: K;
  stage: Stage;
  name: string;
  enabled: boolean;
  group: string | null;
  /** 0..1 */
  strength: number;
  mix: Mix;
  reach: { own: ToneRange; beneath: ToneRange };
  /** The id of a mask of the treatment. */
  mask: string | null;
  settings: Settings<K>;
  look?: StepLook;
  alternative?: Alternative;
  /** For looking only, never stored: the step's area is shown by itself, white on black, and nothing of what it lies on. */
  alone?: true;
}

/** Neighbouring steps that belong together; they may stand in neighbouring stages. */
export interface StepGroup {
  id: string;
  name: string;
  /** 0..1, what its steps make together against what lies beneath the first of them. */
  strength: number;
}

export interface Treatment {
  format: typeof FORMAT;
  version: typeof VERSION;
  /** 0..1, the whole treatment against the bare picture. */
  strength: number;
  frame: Frame;
  steps: Step[];
  groups: StepGroup[];
  masks: Mask[];
  /** Colour tables that it carries, by id: the texts of .cube files. */
  tables: Record<string, Reference>;
}

/** A treatment that cannot be read, with the place in the JSON. */
export class TreatmentError extends Error {
  constructor(
    readonly path: string,
    readonly reason: string,
  ) {
    super(path ? `${path}: ${reason}` : reason);
    this.name = 'TreatmentError';
  }
}

/** More steps than this are refused: no picture needs them, and a hostile file could stall a plan. */
export const MOST_STEPS = 200;
export const MOST_MASKS = 200;
/** A patch of one has so many operations at most: no change by hand makes more, and each may move all that stands behind it. */
export const MOST_OPERATIONS = 20_000;

/** A treatment with no steps: the bare photograph. */
export function bareTreatment(): Treatment {
  return {
    format: FORMAT,
    version: VERSION,
    strength: 1,
    frame: wholeFrame(),
    steps: [],
    groups: [],
    masks: [],
    tables: {},
  };
}
