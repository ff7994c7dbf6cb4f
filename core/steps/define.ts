import type { Mix } from '../colour/mixes';
import type { Triple } from '../colour/oklab';
import type { CubeTable } from '../formats/cube';
import type { Scale } from '../frame/geometry';
import type { Family } from '../colour/hues';
import type { Codes } from '../kernels/grid';
import type { MaskPart } from '../masks/parts';
import { defaultsOf, type Fields, type SettingsOf } from '../settings/fields';
import type { Handle, Outline } from '../settings/handles';

/** The five groups of the tray line, in working order. */
export const stages = ['ground', 'mono', 'tone', 'colour', 'finish'] as const;
export type Stage = (typeof stages)[number];

/** Changes one encoded colour in place. Must be free of state: the same colour gives the same result. */
export type Point = (colour: Triple) => void;

/** What a step may use besides its settings and the picture. */
export interface StepContext {
  /** A colour table that the treatment carries, by its id there; undefined where it has none of that id. */
  tableNamed: (id: string) => CubeTable | undefined;
  /**
   * The colour that the photograph has here with only its Ground steps: filled before a point is asked, for
   * kinds that say `usesGround`.
   */
  ground: Triple;
}

/** What a step uses by itself, without a treatment about it: no table, no ground. */
export const noContext = (): StepContext => ({
  tableNamed: () => undefined,
  ground: new Float64Array(3),
});

/** A rectangle of the framed picture while it is rendered: encoded RGB, interleaved, row by row. */
export interface Region {
  rgb: Float32Array;
  /** Where it lies in the framed picture. */
  x: number;
  y: number;
  width: number;
  height: number;
  scale: Scale;
  /**
   * Photograph coordinates (fractions of its width and height) of a pixel's middle, x and y in pixels of
   * the framed picture; written into `out`.
   */
  placeOf: (x: number, y: number, out: Float64Array) => void;
}

/**
 * What a step makes of pixels that it does not see one by one: it looks at neighbours, at where a pixel
 * lies.
 */
export interface Field {
  /** How far it looks, in pixels, at a scale. */
  margin?: (scale: Scale) => number;
  /** It needs a look at the whole picture, small, before any part is rendered. */
  survey?: (whole: Region) => unknown;
  /** What the survey depends on besides the picture, where that is less than all settings. */
  surveyKey?: string;
  /**
   * What depends on the place alone, whatever the picture: one number a pixel, kept while the picture beneath
   * changes.
   */
  placed?: (region: Omit<Region, 'rgb'>) => Float32Array;
  /** What `placed` depends on, where that is less than all settings. */
  placedKey?: string;
  /** `own` reads no pixel but the one that it writes, so that it may write over the region itself. */
  inPlace?: boolean;
  /**
   * Writes what it makes of the region into `out`; within the margin of the region's edges it may be wrong.
   * @param placed what `placed` gave for the region
   */
  own: (region: Region, survey: unknown, out: Float32Array, placed: Float32Array) => void;
  /** The same as `own` from codes to codes of 16 bits, rounded, where there is a shorter way; of a part that it reads alone. */
  ownCodes?: (codes: Codes, region: Omit<Region, 'rgb'>, survey: unknown, out: Uint16Array) => void;
  /** A grey picture (R = G = B) stays grey. */
  keepsGrey?: boolean;
}

/** Lays a step on colours in place by a strength, each by its weight; null where all are whole. */
export type Laid = (rgb: Float32Array, weights: Float32Array | null, strength: number) => void;

/**
 * Changes what a mix has given, in place.
 * @param beneath what the step lies on
 * @param own what the step made by itself, before the mix
 */
export type OverMix = (beneath: Triple, own: Triple, mixed: Triple) => void;

/** What the settings of a step say by themselves, whatever the picture. */
export type KindAdvice =
  /** Tones are mapped to a darkest colour of this lightness (L*): the print has no black. */
  | { what: 'weak-black'; lightness: number }
  /** The dark end is lighter than what comes next: the tones turn round there. */
  | { what: 'dark-end-lighter' };

/** What is looked at while a setting is held. */
export type Held<S> = { zone: MaskPart } | { settings: S };

/** An offer to set a step from the picture beneath it. */
export interface Automatic<S> {
  /** Whether it is offered as the step is set now; always, where it is left out. */
  when?: (settings: S) => boolean;
  /** @param codes 8-bit or 16-bit RGB codes of a small picture of what lies beneath the step */
  find: (codes: Codes) => Found<S>;
}

/** What was found by itself, and what is to be said of it. */
export interface Found<S> {
  settings: Partial<S>;
  said: Finding;
}

/** What an automatic setting came to. */
export type Finding =
  /** The two colours that came apart the most, and by how many codes of 255 further than by luminance. */
  | { what: 'parted'; lighter: Family | 'grey'; darker: Family | 'grey'; by: number }
  /** There are no two colours to part, or they stand apart by themselves. */
  | { what: 'nothing-to-part' }
  /** These settings moved from rest: their names, and how far. */
  | { what: 'moved'; settings: [name: string, value: number][] };

/** What a pull came to: the settings, and how far each family of hues is moved. */
export interface Pulled<S> {
  settings: S;
  /** None where the colour is grey and cannot be pulled. */
  families: { family: Family; share: number; value: number }[];
}

/** Handles and lines on the picture. */
export interface Overlay<S> {
  handles: Handle<S>[];
  outline: Outline[];
}

/**
 * How a tray draws the step from its settings: tones over tones, hues before and after, greys as a ramp, a dish of it, its
 * area in its colour, corners, grain, glow, edges, texture, or the picture after it.
 */
export type Face =
  | 'curve'
  | 'hues'
  | 'ramp'
  | 'dish'
  | 'area'
  | 'corners'
  | 'grain'
  | 'glow'
  | 'edges'
  | 'texture'
  | 'picture';

export interface StepDefinition<F extends Fields = Fields, K extends string = string> {
  kind: K;
  /** Where the tray usually lies. */
  stage: Stage;
  /** How its tray is drawn; as the picture after it, where it does not say. */
  face?: Face;
  fields: F;
  /** Settings as earlier versions wrote them, brought into today's form; others are left as they are. */
  earlier?: (settings: Record<string, unknown>) => Record<string, unknown>;
  /** What a step that is newly set out differs in from the defaults of the format. */
  fresh?: Partial<SettingsOf<F>>;
  /** How the step is laid on unless it says otherwise. */
  mix?: Mix;
  /** What the step makes of a colour, where that depends on nothing but the colour (and the ground's). */
  point: (settings: SettingsOf<F>, context: StepContext) => Point;
  /** What it makes of a region, where it needs more than each colour; null where `point` serves. */
  field?: (settings: SettingsOf<F>, context: StepContext) => Field | null;
  /**
   * The same as `point` laid on through the mix with a strength, by a compiled kernel; null where there is none for these
   * settings.
   */
  laid?: (settings: SettingsOf<F>, mix: Mix) => Laid | null;
  /**
   * What is done to the picture beneath before `point` reads it, where a colour alone would say too much: its noise. A
   * colour table, which has no picture, leaves it out.
   */
  prepares?: (settings: SettingsOf<F>) => Field | null;
  /** `point` reads the context's ground. */
  usesGround?: boolean;
  /** Whether the result is grey (R = G = B) whatever comes in. */
  leavesGrey?: (settings: SettingsOf<F>) => boolean;
  /** How far the step's mask is softened, both ways, as a fraction of the long edge. */
  bleed?: (settings: SettingsOf<F>) => number;
  /** What becomes of what the mix gives, before it is laid on by weight; null where it stays. */
  overMix?: (settings: SettingsOf<F>) => OverMix | null;
  /** It is for parts of the picture: set out, it lies on an area that is still empty. */
  startsOnArea?: boolean;
  /** It colours tones, so that solid black takes nothing of it. */
  coloursTones?: boolean;
  /** A grey print has colour with it. */
  givesColour?: boolean;
  /** What it does is seen at natural size only. */
  seenNatural?: boolean;
  /** What lights up in the picture while a setting (its path) is held: what that touches, or the step otherwise set. */
  whileHeld?: (settings: SettingsOf<F>, path: readonly string[]) => Held<SettingsOf<F>> | null;
  /** What its settings say by themselves, laid on through a mix. */
  advise?: (settings: SettingsOf<F>, mix: Mix) => KindAdvice[];
  /** What it can find by itself in the picture beneath it. */
  automatic?: Automatic<SettingsOf<F>>;
  /** A press on the picture and a drag: what has that colour is moved. */
  pull?: (
    settings: SettingsOf<F>,
    colour: readonly [number, number, number],
    by: number,
  ) => Pulled<SettingsOf<F>>;
  /** How it is held on the picture, in fractions of the picture in its frame. */
  overlay?: (settings: SettingsOf<F>, frame: { width: number; height: number }) => Overlay<SettingsOf<F>>;
}

export interface StepKind<F extends Fields = Fields, K extends string = string> extends StepDefinition<F, K> {
  defaults: SettingsOf<F>;
}

/** Declares a step kind: its settings, their ranges and defaults, and what it computes. */
export function defineStep<const K extends string, F extends Fields>(
  definition: StepDefinition<F, K>,
): StepKind<F, K> {
  return { ...definition, defaults: defaultsOf(definition.fields) };
}
