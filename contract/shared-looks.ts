import { z } from 'zod';
import { lookGroup, lookName } from '../core/treatment/look-names';
import { byId, counted } from './common';
import { declare } from './route';
import { treatmentView } from './takes';

/** Looks that a series shares: what came from one follows it when it is changed. They are named and put aside as other looks. */

const sharedView = z.object({
  id: z.uuid(),
  name: z.string(),
  group: z.string(),
  revision: z.int(),
  treatment: treatmentView,
  /** The revision with which each of its steps came, by their ids. */
  since: z.record(z.string(), z.int()),
  /** How many photographs use it, in the takes that they are shown by. */
  uses: z.int(),
});
export type SeriesLook = z.infer<typeof sharedView>;

const treatment = z.unknown().refine(given => given !== undefined, 'is missing');

export const listSharedLooks = declare({
  method: 'get',
  path: '/api/series/:id/looks',
  summary: 'The looks that a series shares, in the order in which they came.',
  params: byId,
  answer: z.array(sharedView),
});

export const shareLook = declare({
  method: 'post',
  path: '/api/series/:id/looks',
  summary: 'Shares a look in a series. Its steps get ids that are theirs for good, in their order.',
  params: byId,
  body: z.strictObject({ name: lookName, group: lookGroup.default('Shared'), treatment }),
  holdsTreatment: true,
  answer: sharedView,
});

export const changeSharedLook = declare({
  method: 'put',
  path: '/api/shared-looks/:id',
  summary:
    'Changes what a shared look is: every take of the series that follows it is changed by a job, each keeping what was changed in it. 409 where the revision is not the newest.',
  params: byId,
  body: z.strictObject({
    revision: counted.min(1),
    treatment,
    /** A take that is left out, since whoever asks changes it. */
    except: z.uuid().optional(),
  }),
  holdsTreatment: true,
  answer: z.object({
    look: sharedView,
    /** The change of many that brings it to what follows; null where nothing does. */
    batchId: z.uuid().nullable(),
  }),
});
