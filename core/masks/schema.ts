import { z } from 'zod';

/**
 * Masks of the treatment format: named areas made of parts. x and y are fractions of the width and height of
 * the uncropped, unturned photograph; radii and feather are fractions of its long edge.
 */

const unit = z.number().min(0).max(1);
/** Shapes and strokes may begin outside of the picture. */
const position = z.tuple([z.number().min(-4).max(5), z.number().min(-4).max(5)]);
const op = z.enum(['add', 'subtract', 'intersect']).default('add');
const lengthUpTo = (most: number) => z.number().min(0).max(most);

const rising = z
  .tuple([unit, unit, unit, unit])
  .refine(([a, b, c, d]) => a <= b && b <= c && c <= d, 'the four ends must not fall');

/** A stroke with more points than this is refused; one lasts minutes. */
const MOST_POINTS = 20_000;
const MOST_STROKES = 5_000;

export const strokeSchema = z.strictObject({
  /** [x, y, pressure 0..1] */
  points: z
    .array(z.tuple([z.number().min(-4).max(5), z.number().min(-4).max(5), unit]))
    .min(1)
    .max(MOST_POINTS),
  radius: lengthUpTo(0.5).default(0.02),
  hardness: unit.default(0.5),
  flow: unit.default(1),
  erase: z.boolean().default(false),
  keepEdges: z.number().min(0).max(0, 'keeping edges is not computed by this version').default(0),
});

const partSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      kind: z.literal('brush'),
      op,
      strokes: z.array(strokeSchema).max(MOST_STROKES).default([]),
    }),
    z.strictObject({
      kind: z.literal('linear'),
      op,
      from: position.default([0.5, 0]),
      to: position.default([0.5, 1]),
    }),
    z.strictObject({
      kind: z.literal('oval'),
      op,
      centre: position.default([0.5, 0.5]),
      radii: z.tuple([lengthUpTo(4), lengthUpTo(4)]).default([0.25, 0.25]),
      angle: z.number().min(-360).max(360).default(0),
      feather: unit.default(0.5),
      outside: z.boolean().default(false),
    }),
    z.strictObject({ kind: z.literal('tones'), op, range: rising.default([0, 0, 1, 1]) }),
    z.strictObject({
      kind: z.literal('hues'),
      op,
      centre: z.number().min(0).max(360).default(0),
      width: z.number().min(0).max(360).default(60),
      softness: unit.default(0.5),
    }),
    z.strictObject({ kind: z.literal('whole'), op }),
    z.strictObject({
      kind: z.literal('picture'),
      op,
      /** A grey PNG of 8 or 16 bits, base64. */
      png: z
        .string()
        .max(128 * 1024 * 1024)
        .regex(/^[A-Za-z0-9+/]+={0,2}$/, 'not base64'),
    }),
    z.strictObject({ kind: z.literal('mask'), op, mask: z.string().min(1).max(64) }),
  ],
  {
    error: issue => {
      const kind = (issue.input as { kind?: unknown })?.kind;
      if (issue.code !== 'invalid_union' || typeof kind !== 'string') return undefined;
      return kind === 'found'
        ? 'found areas are not computed by this version'
        : `unknown mask part ${JSON.stringify(kind)}`;
    },
  },
);

export const maskSchema = z.strictObject({
  id: z.string().min(1).max(64),
  name: z.string().max(120).default(''),
  invert: z.boolean().default(false),
  feather: lengthUpTo(0.2).default(0),
  /** Positive grows, negative shrinks. */
  grow: z.number().min(-0.1).max(0.1).default(0),
  refine: unit.default(0),
  parts: z.array(partSchema).max(200).default([]),
});

export type Stroke = z.infer<typeof strokeSchema>;
export type MaskPart = z.infer<typeof partSchema>;
export type Mask = z.infer<typeof maskSchema>;
