import { z } from 'zod';
import { byId, idList } from './common';
import { declare } from './route';

/** Sheets of a series to be printed. */

export const sheetSettings = z.strictObject({
  /** The pictures as they are, or each beside its bare photograph, or of each all its steps with their values. */
  kind: z.enum(['contact', 'before-after', 'card']).default('contact'),
  /** One PDF, or a picture of each page at 300 dots an inch. */
  as: z.enum(['pdf', 'png', 'jpeg']).default('pdf'),
  paper: z.enum(['a4', 'a3', 'letter']).default('a4'),
  lying: z.boolean().default(false),
  /** Millimetres on all sides. */
  margin: z.number().min(5).max(40).default(15),
  /** Pictures beside one another; of pairs, pictures too. */
  columns: z.int().min(1).max(8).default(3),
  captions: z.boolean().default(true),
});
export type SheetSettings = z.infer<typeof sheetSettings>;

export const makeSheet = declare({
  method: 'post',
  path: '/api/series/:id/contact-sheet',
  summary:
    'Takes of a series in rows, with captions, or cards of their treatments, to be printed: a PDF, or a picture of each page.',
  params: byId,
  body: z.strictObject({ takes: idList(500).min(1), settings: sheetSettings }),
  gives: 'application/pdf',
});

/** A test strip on paper has at most so many pictures. */
export const MOST_ON_STRIP = 49;

export const makeStripSheet = declare({
  method: 'post',
  path: '/api/takes/:id/strip-sheet',
  summary:
    'A take with one or two settings of a step at several values, in rows, to be printed: a PDF, or a picture of each page.',
  params: byId,
  body: z.strictObject({
    step: z.string().min(1).max(120),
    /** Each with the names of settings, as their controls are called, and their values. */
    pictures: z
      .array(
        z
          .array(
            z.strictObject({
              name: z.string().min(1).max(120),
              value: z.union([z.number(), z.string().max(120)]),
            }),
          )
          .min(1)
          .max(2),
      )
      .min(1)
      .max(MOST_ON_STRIP),
    settings: sheetSettings.omit({ kind: true }),
  }),
  gives: 'application/pdf',
});
