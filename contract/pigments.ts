import { z } from 'zod';
import { pigmentSchema } from '../core/settings/schema';
import { byId } from './common';
import { declare } from './route';

/** The pigment box: pigments that are kept for all photographs. */

const name = z.string().trim().min(1).max(60);

const depth = z.number().min(-1).max(1);

const pigmentView = z.object({ id: z.uuid(), name: z.string(), pigment: pigmentSchema, depth });
export type KeptPigment = z.infer<typeof pigmentView>;

export const listPigments = declare({
  method: 'get',
  path: '/api/pigments',
  summary: 'All kept pigments, in the order in which they came.',
  answer: z.array(pigmentView),
});

export const keepPigments = declare({
  method: 'post',
  path: '/api/pigments',
  summary: 'Keeps pigments: all of them, or none where one is not valid.',
  body: z.strictObject({
    pigments: z
      .array(z.strictObject({ name, pigment: pigmentSchema, depth: depth.default(0) }))
      .min(1)
      .max(500),
  }),
  answer: z.array(pigmentView),
});

export const renamePigment = declare({
  method: 'patch',
  path: '/api/pigments/:id',
  summary: 'Names a pigment.',
  params: byId,
  body: z.strictObject({ name }),
  answer: pigmentView,
});

export const removePigment = declare({
  method: 'delete',
  path: '/api/pigments/:id',
  summary: 'Takes a pigment out of the box. Washes that use it keep their colour.',
  params: byId,
});

export const restorePigment = declare({
  method: 'post',
  path: '/api/pigments/:id/restore',
  summary: 'Brings a pigment back into the box.',
  params: byId,
  answer: pigmentView,
});
