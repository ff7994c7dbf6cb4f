import { z } from 'zod';
import { byId } from './common';
import { declare } from './route';

/** Who may come in, where a passphrase is set: browsers that have signed in, and programs, which give a token in `Authorization: Bearer …`. */

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

export const signInView = z.object({
  id: z.uuid(),
  /** What the browser calls itself. */
  browser: z.string(),
  createdAt: z.iso.datetime(),
  /** When it was last used, to the hour. */
  usedAt: z.iso.datetime(),
  /** It is the one that asks. */
  own: z.boolean(),
});
export type SignIn = z.infer<typeof signInView>;

export const listSignIns = declare({
  method: 'get',
  path: '/api/sign-ins',
  cookieOnly: true,
  summary: 'Who is signed in with the passphrase, the last used first.',
  answer: z.array(signInView),
});

export const endSignIn = declare({
  method: 'delete',
  path: '/api/sign-ins/:id',
  cookieOnly: true,
  summary: 'Signs a browser out, wherever it is.',
  params: byId,
});
