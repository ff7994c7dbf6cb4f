import { z } from 'zod';
import { byId, idList } from './common';
import { declare } from './route';

/** Changes of many photographs of a series at once, done by jobs, each with one undo for all. */

const fraction = z.number().min(0).max(1);

const layingView = z.strictObject({
  how: z.enum(['instead', 'added']),
  frame: z.boolean().default(false),
  painted: z.boolean().default(false),
  as: z.strictObject({ name: z.string().trim().min(1).max(80), strength: fraction }).optional(),
});

const kind = z.string().min(1).max(60);

const workView = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('lay'), laying: layingView }),
  z.strictObject({ do: z.literal('switch'), kind, on: z.boolean() }),
  z.strictObject({ do: z.literal('strength'), kind, strength: fraction }),
]);

const itemStates = ['waiting', 'done', 'same', 'failed', 'undone'] as const;

const batchView = z.object({
  id: z.uuid(),
  seriesId: z.uuid(),
  label: z.string(),
  state: z.enum(['running', 'done', 'stopped', 'undone']),
  items: z.array(
    z.object({
      photographId: z.uuid(),
      state: z.enum(itemStates),
      /** Why it failed, or was not undone. */
      problem: z.string().nullable(),
    }),
  ),
});
export type Batch = z.infer<typeof batchView>;

export const beginBatch = declare({
  method: 'post',
  path: '/api/series/:id/batches',
  summary:
    'Lays a treatment on many photographs, switches steps of a kind, or sets their strength: in new takes, or in the current ones.',
  params: byId,
  body: z.strictObject({
    label: z.string().trim().min(1).max(120),
    photographs: idList(10_000).min(1),
    into: z.enum(['current', 'new']),
    work: workView,
    /** What is laid on. */
    treatment: z.unknown().optional(),
  }),
  holdsTreatment: true,
  answer: batchView,
});

export const getBatch = declare({
  method: 'get',
  path: '/api/batches/:id',
  summary: 'How far it is, and what has become of each photograph.',
  params: byId,
  answer: batchView,
});

export const stopBatch = declare({
  method: 'post',
  path: '/api/batches/:id/stop',
  summary: 'Stops it: what is done stays, what waits is left as it is.',
  params: byId,
  answer: batchView,
});

export const undoBatch = declare({
  method: 'post',
  path: '/api/batches/:id/undo',
  summary: 'Undoes it for every photograph that has not been changed since.',
  params: byId,
  answer: batchView,
});

export const redoBatch = declare({
  method: 'post',
  path: '/api/batches/:id/redo',
  summary: 'Does again what was undone, to the treatments that are there now.',
  params: byId,
  answer: batchView,
});
