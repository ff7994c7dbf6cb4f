import { z } from 'zod';
import { stepKinds, type Kind } from '../steps';
import { bands } from '../analysis/reading';
import { ways } from '../analysis/moved';

/**
 * A method: a guide to a usual aim, as data. It is done page by page on a photographer's own picture; each page lays an ordinary step
 * that is set by what is read from the picture. Values in its steps may be taken from a fact (see ./facts):
 * `{ "read": "lights", "from": [0.1, 0.6], "to": [0.55, 0.3] }` follows it along a line and stops at both ends, `{ "read": "thing.hue" }` is
 * the fact itself, `{ "automatic": "response" }` what the automatic setting of that name gives.
 */

const key = z.string().regex(/^[a-z][a-z0-9-]*$/);

/** Holds where the fact lies within its bounds, or the photograph is as grey as is said. */
const conditionSchema = z.union([
  z.strictObject({ grey: z.boolean() }),
  z
    .strictObject({ read: z.string(), above: z.number().optional(), below: z.number().optional() })
    .refine(({ above, below }) => above !== undefined || below !== undefined, 'has no bound'),
]);
export type Condition = z.infer<typeof conditionSchema>;

/** Sentences that are said where all that they need holds. */
const toldSchema = z.array(
  z.strictObject({ text: z.string().min(1), when: z.array(conditionSchema).default([]) }),
);
export type Told = z.infer<typeof toldSchema>;

const kindNames = stepKinds.map(({ kind }) => kind) as [Kind, ...Kind[]];
const values = z.record(z.string(), z.unknown());

const deedSchema = z.discriminatedUnion('does', [
  /** Adds a step, or goes on with the one of its kind that is there, where it says so. */
  z.strictObject({
    does: z.literal('put'),
    kind: z.enum(kindNames),
    name: z.string().max(40).default(''),
    strength: z.unknown().default(1),
    settings: values.default({}),
    /** `thing`: what is noticed in the picture; or an area of its own. */
    area: z
      .union([
        z.literal('thing'),
        z.strictObject({ of: key }),
        z.strictObject({ name: z.string(), feather: z.number().default(0), parts: z.array(values).min(1) }),
      ])
      .optional(),
    /** The page whose step it is an alternative of. */
    beside: key.optional(),
    reuse: z.boolean().default(false),
    /** Lies in the tray of a step of its kind that is there, at work in its place. */
    instead: z.boolean().default(false),
  }),
  /** Adds a bath to the row of another page's step. */
  z.strictObject({ does: z.literal('bath'), in: key, bath: values }),
  /** Sets settings of another page's step that were at rest. */
  z.strictObject({ does: z.literal('set'), in: key, settings: values }),
  /** One of the alternatives that another page's step has is chosen. */
  z.strictObject({ does: z.literal('choose'), in: key }),
  /** Goes on with the series: its sheet, or a look that it shares, of other pages' steps. */
  z.strictObject({ does: z.literal('series'), to: z.enum(['share', 'sheet']), of: z.array(key).default([]) }),
]);
export type Deed = z.infer<typeof deedSchema>;
export type Put = Extract<Deed, { does: 'put' }>;

const pageSchema = z.strictObject({
  key,
  name: z.string().min(1).max(34),
  /** What it is called on the way to it. */
  short: z.string().min(1).max(16),
  why: toldSchema.min(1),
  deed: deedSchema,
  /** Settings that can be tried here, each with its whole control. */
  fields: z.array(z.string()).default([]),
  /** Numbers that can be tried here, by the names of their controls. */
  numbers: z.array(z.strictObject({ name: z.string(), label: z.string().max(12) })).default([]),
  try: z.string().default(''),
  /** How it moves the picture, each band that is named. */
  moves: z.partialRecord(z.enum(bands), z.array(z.enum(ways))).default({}),
  when: z.array(conditionSchema).default([]),
});
export type Page = z.infer<typeof pageSchema>;

export const methodSchema = z
  .strictObject({
    key,
    title: z.string().min(1).max(30),
    /** What it comes to, in a sentence. */
    aim: z.string().min(1).max(120),
    /** A photograph in colour, or one in which something stands out by its colour. */
    needs: z.enum(['colour', 'thing']).optional(),
    pages: z.array(pageSchema).min(2).max(8),
  })
  .superRefine(({ pages }, context) => {
    pages.forEach(({ key: own, deed }, i) => {
      const names = [
        'in' in deed ? deed.in : undefined,
        deed.does === 'put' ? deed.beside : undefined,
        deed.does === 'put' && typeof deed.area === 'object' && 'of' in deed.area ? deed.area.of : undefined,
      ];
      for (const name of names) {
        if (name !== undefined && !pages.slice(0, i).some(p => p.key === name)) {
          context.addIssue(`page ${own} needs ${name}, which is no page before it`);
        }
      }
      if (pages.findIndex(p => p.key === own) !== i) context.addIssue(`there are two pages ${own}`);
    });
  });
export type Method = z.infer<typeof methodSchema>;
