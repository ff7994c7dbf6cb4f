import { z } from 'zod';
import { byId, idList } from './common';
import { declare } from './route';

/** Sheets of a series to be printed. */

export const sheetSettings = z.strictObject({
  /** The pictures as they are, or each beside its bare photograph. */
  kind: z.enum(['contact', 'before-after']).default('contact'),
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
  summary: 'A PDF of takes of a series in rows, with captions, to be printed.',
  params: byId,
  body: z.strictObject({ takes: idList(500).min(1), settings: sheetSettings }),
  gives: 'application/pdf',
});
