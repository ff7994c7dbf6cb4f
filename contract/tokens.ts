import { z } from 'zod';
import { byId } from './common';
import { declare } from './route';

/** Tokens: what a program gives instead of the passphrase, in `Authorization: Bearer …`. */

export const tokenView = z.object({
  id: z.uuid(),
  name: z.string(),
  createdAt: z.iso.datetime(),
  /** When it was last given, to the hour; null where it never was. */
  usedAt: z.iso.datetime().nullable(),
});
export type Token = z.infer<typeof tokenView>;

export const listTokens = declare({
  method: 'get',
  path: '/api/tokens',
  cookieOnly: true,
  summary: 'The tokens that have been given out, without what they say.',
  answer: z.array(tokenView),
});

export const giveToken = declare({
  method: 'post',
  path: '/api/tokens',
  cookieOnly: true,
  summary: 'Gives out a token; it is told this once. 409 where no passphrase is set: then none is needed.',
  body: z.strictObject({ name: z.string().trim().min(1).max(60) }),
  answer: tokenView.extend({ token: z.string() }),
});

export const endToken = declare({
  method: 'delete',
  path: '/api/tokens/:id',
  cookieOnly: true,
  summary: 'Ends a token: whoever has it is let in no more.',
  params: byId,
});
