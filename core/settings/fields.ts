import type { Stop } from '../colour/gradient';
import type { Pigment } from '../colour/pigments';

/**
 * The settings of a step kind or of a mask part, described once: the schema (see ./schema), the default and the generic
 * control all come from these descriptions. Free of the schema library, which nothing that renders needs.
 */

export interface NumberField {
  type: 'number';
  min: number;
  max: number;
  default: number;
  /** How the number reads: `amount` -1..1 and `fraction` 0..1 are shown times 100; `length` in percent of the long edge, pixels beside it. */
  unit: 'ev' | 'amount' | 'fraction' | 'hue' | 'turn' | 'plain' | 'length' | 'whole';
  /** A ratio: equal shares of its control multiply it alike, so that 1 stands in the middle between a number and its inverse. */
  scale?: 'ratio';
  /** Its control stands within that of this neighbour. */
  within?: string;
  /** What stands above its control and shows what it moves. */
  above?: 'tone-ramp';
}

export interface ChoiceField<V extends string = string> {
  type: 'choice';
  options: readonly V[];
  default: V;
}

export interface FlagField {
  type: 'flag';
  default: boolean;
}

/** A colour `#rrggbb`; where it may be absent, null stands for none. */
export interface ColourField<N extends null = null> {
  type: 'colour';
  default: string | N;
  optional: boolean;
}

/** The points of a curve: [x, y] in 0..1, x rising. */
export interface CurveField {
  type: 'curve';
  default: CurvePoints;
}
export type CurvePoints = [number, number][];

/** Colour stops along 0..1, in any order. */
export interface StopsField {
  type: 'stops';
  default: Stop[];
}

/** The colour of a wash: one, or a ramp by the tone beneath. */
export interface PigmentField {
  type: 'pigment';
  default: Pigment;
}

/** A place on the photograph: fractions of its width and height; it may lie outside. */
export interface PositionField {
  type: 'position';
  default: Position;
}
export type Position = [number, number];

/** Two radii, fractions of the long edge. */
export interface RadiiField {
  type: 'radii';
  most: number;
  default: [number, number];
}

/** A trapezoid over tones: 0 below the first, 1 from the second to the third, 0 above the fourth. */
export interface RangeField {
  type: 'range';
  default: ToneRange;
}
export type ToneRange = [number, number, number, number];

/** Strokes of the brush. */
export interface StrokesField {
  type: 'strokes';
  default: Stroke[];
}
export interface Stroke {
  /** [x, y, pressure 0..1], x and y as fractions of the photograph. */
  points: [number, number, number][];
  /** A fraction of the long edge. */
  radius: number;
  hardness: number;
  flow: number;
  erase: boolean;
  keepEdges: number;
}

/** Another mask of the treatment, by its id. */
export interface MaskField {
  type: 'mask';
}

/** How a treatment names what it carries along: by the SHA-256 of its bytes. */
export interface Reference {
  sha256: string;
}

/** A grey picture that the treatment carries. */
export interface PictureField {
  type: 'picture';
}

/** The id of something that the treatment carries along: a colour table. Null for none. */
export interface ReferenceField {
  type: 'reference';
  to: 'tables';
  default: null;
}

/** Several of the same, in order. */
export interface ListField<F extends Fields = Fields> {
  type: 'list';
  fields: F;
  most: number;
}

export interface GroupField<F extends Fields = Fields> {
  type: 'group';
  fields: F;
  /** Shown only while a neighbouring choice has this value; the setting itself is always kept. */
  shownWhen?: { field: string; is: string };
  /** How the group is laid out by the generic panel. */
  layout: 'section' | 'families' | 'curves';
}

export type Field =
  | NumberField
  | ChoiceField
  | FlagField
  | ColourField
  | CurveField
  | StopsField
  | PigmentField
  | PositionField
  | RadiiField
  | RangeField
  | StrokesField
  | MaskField
  | PictureField
  | ReferenceField
  | ListField
  | GroupField;
export type Fields = { readonly [name: string]: Field };

export type ValueOf<F extends Field> = F extends NumberField
  ? number
  : F extends ChoiceField<infer V>
    ? V
    : F extends FlagField
      ? boolean
      : F extends ColourField
        ? string | null
        : F extends CurveField
          ? CurvePoints
          : F extends StopsField
            ? Stop[]
            : F extends PigmentField
              ? Pigment
              : F extends PositionField
                ? Position
                : F extends RadiiField
                  ? [number, number]
                  : F extends RangeField
                    ? ToneRange
                    : F extends StrokesField
                      ? Stroke[]
                      : F extends MaskField
                        ? string
                        : F extends PictureField
                          ? Reference
                          : F extends ReferenceField
                            ? string | null
                            : F extends ListField<infer L>
                              ? SettingsOf<L>[]
                              : F extends GroupField<infer G>
                                ? SettingsOf<G>
                                : never;
export type SettingsOf<F extends Fields> = { [K in keyof F]: ValueOf<F[K]> };

const numberOf =
  (min: number, max: number, unit: NumberField['unit']) =>
  (value = 0): NumberField => ({ type: 'number', min, max, default: value, unit });

export const exposure = (min: number, max: number): NumberField => numberOf(min, max, 'ev')();
export const amount = numberOf(-1, 1, 'amount');
export const fraction = numberOf(0, 1, 'fraction');
export const hue = numberOf(0, 360, 'hue');
/** Degrees clockwise. */
export const turn = numberOf(-360, 360, 'turn');
/** A plain number in a range of its own. */
export const plain = (min: number, max: number, value = 0): NumberField => numberOf(min, max, 'plain')(value);
/** A ratio about 1, from the inverse of `most` to `most`. */
export const ratio = (most: number): NumberField => ({
  ...numberOf(1 / most, most, 'plain')(1),
  scale: 'ratio',
});
/** A whole number. */
export const whole = (min: number, max: number, value = 0): NumberField => numberOf(min, max, 'whole')(value);
/** A length as a fraction of the long edge of the uncropped photograph. */
export const length = (max: number, value = 0): NumberField => numberOf(0, max, 'length')(value);

export const choice = <const V extends string>(options: readonly V[], value: NoInfer<V>): ChoiceField<V> => ({
  type: 'choice',
  options,
  default: value,
});
export const flag = (value: boolean): FlagField => ({ type: 'flag', default: value });
export const colour = (value: string): ColourField => ({ type: 'colour', default: value, optional: false });
export const optionalColour = (): ColourField => ({ type: 'colour', default: null, optional: true });
export const curvePoints = (): CurveField => ({
  type: 'curve',
  default: [
    [0, 0],
    [1, 1],
  ],
});
export const stops = (value: Stop[]): StopsField => ({ type: 'stops', default: value });
export const pigment = (value: Pigment): PigmentField => ({ type: 'pigment', default: value });
export const reference = (to: 'tables'): ReferenceField => ({ type: 'reference', to, default: null });
export const position = (x: number, y: number): PositionField => ({ type: 'position', default: [x, y] });
export const radii = (most: number, value: [number, number]): RadiiField => ({
  type: 'radii',
  most,
  default: value,
});
export const range = (): RangeField => ({ type: 'range', default: [0, 0, 1, 1] });
export const strokes = (): StrokesField => ({ type: 'strokes', default: [] });
export const otherMask = (): MaskField => ({ type: 'mask' });
export const carriedPicture = (): PictureField => ({ type: 'picture' });
export const list = <F extends Fields>(fields: F, most: number): ListField<F> => ({
  type: 'list',
  fields,
  most,
});
export const group = <F extends Fields>(
  fields: F,
  options: Partial<Pick<GroupField, 'shownWhen' | 'layout'>> = {},
): GroupField<F> => ({ type: 'group', fields, layout: 'section', ...options });

function defaultOf(field: Field): unknown {
  // What must be given has none.
  if (field.type === 'mask' || field.type === 'picture') return undefined;
  if (field.type === 'group') return defaultsOf(field.fields);
  if (field.type === 'list') return [];
  return structuredClone(field.default);
}

/** The defaults of a set of fields. */
export function defaultsOf<F extends Fields>(fields: F): SettingsOf<F> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => [name, defaultOf(field)]),
  ) as SettingsOf<F>;
}
