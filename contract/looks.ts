import { z } from 'zod';
import { lookGroup, lookName } from '../core/treatment/look-names';
import { byId } from './common';
import { declare } from './route';
import { treatmentView } from './takes';

/** Looks that are kept for all photographs. */

const lookView = z.object({ id: z.uuid(), name: z.string(), group: z.string(), treatment: treatmentView });
export type KeptLook = z.infer<typeof lookView>;

export const listLooks = declare({
  method: 'get',
  path: '/api/looks',
  summary: 'All kept looks, in the order in which they came.',
  answer: z.array(lookView),
});

export const keepLook = declare({
  method: 'post',
  path: '/api/looks',
  summary: 'Keeps a look: a treatment under a name. Its frame stays behind.',
  body: z.strictObject({
    name: lookName,
    group: lookGroup,
    treatment: z.unknown().refine(given => given !== undefined, 'is missing'),
  }),
  holdsTreatment: true,
  answer: lookView,
});

export const changeLook = declare({
  method: 'patch',
  path: '/api/looks/:id',
  summary: 'Names a look, or puts it into another group.',
  params: byId,
  body: z.strictObject({ name: lookName.optional(), group: lookGroup.optional() }),
  answer: lookView,
});

export const removeLook = declare({
  method: 'delete',
  path: '/api/looks/:id',
  summary: 'Puts a look aside. What it was laid on stays as it is.',
  params: byId,
});

export const restoreLook = declare({
  method: 'post',
  path: '/api/looks/:id/restore',
  summary: 'Brings a look back.',
  params: byId,
  answer: lookView,
});
