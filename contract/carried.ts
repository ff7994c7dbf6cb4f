import { z } from 'zod';
import { carriedKinds } from '../core/formats/carried';
import { referenceSchema } from '../core/settings/schema';
import { declare } from './route';

/** What treatments carry along and refer to by hash: colour tables and pictures of areas. */

const byHash = z.strictObject({ sha256: referenceSchema.shape.sha256 });

export const putCarried = declare({
  method: 'put',
  path: '/api/carried/:kind/:sha256',
  summary: 'Sends a .cube text (table) or a grey PNG (picture) that treatments can refer to by its SHA-256.',
  params: byHash.extend({ kind: z.enum(carriedKinds) }),
  takes: 'application/octet-stream',
  answer: z.object({ sha256: z.string(), size: z.int() }),
});

export const getCarried = declare({
  method: 'get',
  path: '/api/carried/:sha256',
  summary: 'The bytes of what treatments refer to.',
  params: byHash,
  gives: 'application/octet-stream',
});
