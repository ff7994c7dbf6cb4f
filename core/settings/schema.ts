import { z } from 'zod';
import type { Field, Fields, SettingsOf } from './fields';

/** The Zod schemas of settings, made from the descriptions of the step kinds. */

const unit = z.number().min(0).max(1);

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

const stopsSchema = z
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
      return z.string().min(1).max(64).nullable().default(null);
    case 'list':
      return z
        .array(settingsSchema(field.fields))
        .max(field.most)
        .default(() => []);
    case 'group':
      return settingsSchema(field.fields);
  }
}

/** The Zod schema of a set of fields: strict, every setting with its default. */
export function settingsSchema<F extends Fields>(fields: F): z.ZodType<SettingsOf<F>> {
  const shape = Object.fromEntries(Object.entries(fields).map(([name, f]) => [name, schemaOfField(f)]));
  return z.strictObject(shape).prefault({}) as unknown as z.ZodType<SettingsOf<F>>;
}
