import { z } from 'zod';
import { declare } from './route';

/** What has been put aside. */

/** Days for which it can be brought back. */
export const KEPT_ASIDE_DAYS = 30;

const asideKinds = ['series', 'photograph', 'take', 'table', 'pigment', 'look'] as const;
export type AsideKind = (typeof asideKinds)[number];

const putAside = z.object({
  kind: z.enum(asideKinds),
  id: z.uuid(),
  name: z.string(),
  /** What it was in: the title of a series or a photograph, or nothing. */
  within: z.string(),
  /** A take that it is shown by; null where there is none. */
  take: z.object({ id: z.uuid(), revision: z.int() }).nullable(),
  /** When it was put aside, and when it goes for good. */
  at: z.iso.datetime(),
  goes: z.iso.datetime(),
});
export type PutAside = z.infer<typeof putAside>;

export const listPutAside = declare({
  method: 'get',
  path: '/api/put-aside',
  summary: `All that is put aside, the last first. It goes for good after ${KEPT_ASIDE_DAYS} days.`,
  answer: z.array(putAside),
});

export const removeForGood = declare({
  method: 'delete',
  path: '/api/put-aside/:kind/:id',
  summary: 'Removes something that is put aside for good, with all that is in it.',
  params: z.strictObject({ kind: z.enum(asideKinds), id: z.uuid() }),
});
