import { z } from 'zod';
import type { Fields } from '../settings/fields';
import { idSchema, shapeOf, unit } from '../settings/schema';
import { ops } from './define';
import { partKinds, type MaskPart } from './parts';

/**
 * Masks of the treatment format: named areas made of parts. x and y are fractions of the width and height of
 * the uncropped, unturned photograph; radii and feather are fractions of its long edge.
 */

// The kinds say what their fields give; Zod cannot know it.
// eslint-disable-next-line no-restricted-syntax -- as said
const partSchema = z.discriminatedUnion(
  'kind',
  // eslint-disable-next-line no-restricted-syntax -- the union is made of a list, whose length its type wants to know
  partKinds.map(({ kind, fields }) =>
    z.strictObject({ kind: z.literal(kind), op: z.enum(ops).default('add'), ...shapeOf(fields as Fields) }),
  ) as never,
  {
    error: issue => {
      const kind = (issue.input as { kind?: unknown })?.kind;
      if (issue.code !== 'invalid_union' || typeof kind !== 'string') return undefined;
      return `unknown mask part ${JSON.stringify(kind)}`;
    },
  },
) as unknown as z.ZodType<MaskPart>;

export const MOST_PARTS = 200;
/** Fractions of the long edge. */
export const MOST_FINE = 0.05;
export const MOST_FRINGE = 0.02;

export const maskSchema = z.strictObject({
  id: idSchema,
  name: z.string().max(120).default(''),
  invert: z.boolean().default(false),
  feather: z.number().min(0).max(0.2).default(0),
  /** Positive grows, negative shrinks. */
  grow: z.number().min(-0.1).max(0.1).default(0),
  refine: unit.default(0),
  fine: z.number().min(0).max(MOST_FINE).default(0),
  fringe: z.number().min(0).max(MOST_FRINGE).default(0),
  parts: z.array(partSchema).max(MOST_PARTS).default([]),
});
