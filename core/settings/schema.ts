import { z } from 'zod';
import type { Field, Fields, SettingsOf, Stroke } from './fields';

/** The Zod schemas of settings, made from the descriptions of the step kinds. */

export const unit = z.number().min(0).max(1);

/** Shapes and strokes may begin outside of the picture. */
const PLACE = [-4, 5] as const;
const place = z.number().min(PLACE[0]).max(PLACE[1]);

export const rangeSchema = z
  .tuple([unit, unit, unit, unit])
  .refine(([a, b, c, d]) => a <= b && b <= c && c <= d, 'the four ends must not fall');

/** A stroke with more points than this is refused; one lasts minutes. */
const MOST_STROKE_POINTS = 20_000;
export const MOST_STROKES = 5_000;

/** What is wrong with the points of a stroke, and where; null where nothing is. There may be hundreds of thousands of them. */
function wrongPoint(value: unknown): { path: number[]; message: string } | null {
  if (!Array.isArray(value)) return { path: [], message: 'expected an array of points' };
  if (value.length < 1) return { path: [], message: 'a stroke has at least one point' };
  if (value.length > MOST_STROKE_POINTS) {
    return { path: [], message: `a stroke has at most ${MOST_STROKE_POINTS} points` };
  }
  for (let i = 0; i < value.length; i++) {
    const point: unknown = value[i];
    if (!Array.isArray(point) || point.length !== 3) {
      return { path: [i], message: 'expected a point: three numbers' };
    }
    for (let k = 0; k < 3; k++) {
      const number: unknown = point[k];
      const [least, most] = k < 2 ? PLACE : [0, 1];
      if (typeof number !== 'number' || !(number >= least && number <= most)) {
        return { path: [i, k], message: `expected a number from ${least} to ${most}` };
      }
    }
  }
  return null;
}

const settingsOfStroke = z.strictObject({
  points: z.custom<[number, number, number][]>().superRefine((value, context) => {
    const wrong = wrongPoint(value);
    if (wrong) context.addIssue({ code: 'custom', ...wrong });
  }),
  radius: z.number().min(0).max(0.5).default(0.02),
  hardness: unit.default(0.5),
  flow: unit.default(1),
  erase: z.boolean().default(false),
  keepEdges: unit.default(0),
});

/** Strokes that came out of the schema: they never change, and are not read again with each change beside them. */
const strokesRead = new WeakSet();

const strokeSchema = z.unknown().transform((value, context): Stroke => {
  if (typeof value === 'object' && value !== null && strokesRead.has(value)) return value as Stroke;
  const read = settingsOfStroke.safeParse(value);
  if (read.success) {
    strokesRead.add(Object.freeze(read.data));
    return read.data;
  }
  const [{ path, ...issue }] = read.error.issues;
  const unknown = issue.code === 'unrecognized_keys';
  context.addIssue({
    code: 'custom',
    path: unknown ? [...path, issue.keys[0]] : path,
    message: unknown ? 'unknown setting' : issue.message,
  });
  return z.NEVER;
});

/** The id of a step, mask or table of a treatment. */
export const idSchema = z.string().min(1).max(64);

/** What a treatment carries, by its hash; in a file the bytes themselves stand in its place. */
export const referenceSchema = z.strictObject({
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'not a SHA-256: 64 hexadecimal digits'),
});

/** A colour as the treatment format writes it. */
const colourSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'not a colour: six hexadecimal digits after a #');

/** The most points of a curve, or stops of a gradient. */
const MOST_POINTS = 32;

const curveSchema = z
  .array(z.tuple([unit, unit]))
  .min(2)
  .max(MOST_POINTS)
  .superRefine((points, context) => {
    points.forEach(([x], i) => {
      if (i > 0 && x <= points[i - 1][0]) {
        context.addIssue({ code: 'custom', path: [i, 0], message: 'points must rise from left to right' });
      }
    });
  });

export const stopsSchema = z
  .array(z.strictObject({ at: unit, colour: colourSchema }))
  .min(2)
  .max(MOST_POINTS);

export const pigmentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('flat'), colour: colourSchema }),
  z.strictObject({ kind: z.literal('ramp'), stops: stopsSchema }),
]);

function schemaOfField(field: Field): z.ZodType {
  switch (field.type) {
    case 'number': {
      const range = field.unit === 'whole' ? z.int() : z.number();
      return range.min(field.min).max(field.max).default(field.default);
    }
    case 'choice':
      return z.enum([...field.options]).default(field.default);
    case 'flag':
      return z.boolean().default(field.default);
    case 'colour':
      return (field.optional ? colourSchema.nullable() : colourSchema).default(field.default as string);
    case 'curve':
      return curveSchema.default(() => structuredClone(field.default));
    case 'stops':
      return stopsSchema.default(() => structuredClone(field.default));
    case 'pigment':
      return pigmentSchema.default(() => structuredClone(field.default));
    case 'reference':
      return idSchema.nullable().default(null);
    case 'position':
      return z.tuple([place, place]).default(field.default);
    case 'radii': {
      const radius = z.number().min(0).max(field.most);
      return z.tuple([radius, radius]).default(field.default);
    }
    case 'range':
      return rangeSchema.default(field.default);
    case 'strokes':
      return z
        .array(strokeSchema)
        .max(MOST_STROKES)
        .default(() => []);
    case 'mask':
      return idSchema;
    case 'picture':
      return referenceSchema;
    case 'list':
      return z
        .array(settingsSchema(field.fields))
        .max(field.most)
        .default(() => []);
    case 'group':
      return settingsSchema(field.fields);
  }
}

/** The Zod schemas of fields, by name. */
export const shapeOf = (fields: Fields): Record<string, z.ZodType> =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, schemaOfField(field)]));

/** The Zod schema of a set of fields: strict, every setting with its default. */
export function settingsSchema<F extends Fields>(fields: F): z.ZodType<SettingsOf<F>> {
  // eslint-disable-next-line no-restricted-syntax -- the descriptions say what the schemas give; Zod cannot know it
  return z.strictObject(shapeOf(fields)).prefault({}) as unknown as z.ZodType<SettingsOf<F>>;
}
