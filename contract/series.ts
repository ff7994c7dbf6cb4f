import { z } from 'zod';
import { pigmentSchema } from '../core/settings/schema';
import { byId, idList } from './common';
import { photographView } from './photographs';
import { declare } from './route';

/** Series: photographs shown together. */

const title = z.string().trim().min(1).max(120);

const seriesSummary = z.object({
  id: z.uuid(),
  title: z.string(),
  caption: z.string(),
  touchedAt: z.iso.datetime(),
  photographs: z.int(),
  treated: z.int(),
  /** The current takes of the cover and of up to two more photographs. */
  stack: z.array(z.object({ takeId: z.uuid(), revision: z.int(), width: z.int(), height: z.int() })),
  last: z.object({ photographId: z.uuid(), title: z.string() }).nullable(),
});
export type SeriesSummary = z.infer<typeof seriesSummary>;

const seriesView = z.object({
  id: z.uuid(),
  title: z.string(),
  caption: z.string(),
  coverId: z.uuid().nullable(),
  photographs: z.array(photographView),
});
export type Series = z.infer<typeof seriesView>;

export const listSeries = declare({
  method: 'get',
  path: '/api/series',
  summary: 'All series, the last touched first.',
  answer: z.array(seriesSummary),
});

export const createSeries = declare({
  method: 'post',
  path: '/api/series',
  summary: 'Begins a series.',
  body: z.strictObject({ title, caption: z.string().max(2000).default('') }),
  answer: seriesView,
});

export const getSeries = declare({
  method: 'get',
  path: '/api/series/:id',
  summary: 'A series with its photographs in order.',
  params: byId,
  answer: seriesView,
});

export const changeSeries = declare({
  method: 'patch',
  path: '/api/series/:id',
  summary: 'Changes title, caption or cover.',
  params: byId,
  body: z.strictObject({
    title: title.optional(),
    caption: z.string().max(2000).optional(),
    coverId: z.uuid().nullable().optional(),
  }),
  answer: seriesView,
});

export const orderSeries = declare({
  method: 'put',
  path: '/api/series/:id/order',
  summary: 'Sets the order of the photographs: every id once.',
  params: byId,
  body: z.strictObject({ photographs: idList(10_000) }),
  answer: seriesView,
});

const many = z.strictObject({ photographs: idList(10_000).min(1) });

export const putAsideMany = declare({
  method: 'post',
  path: '/api/series/:id/put-aside',
  summary: 'Puts photographs of a series aside, all or none. They can be brought back.',
  params: byId,
  body: many,
});

export const bringBackMany = declare({
  method: 'post',
  path: '/api/series/:id/bring-back',
  summary: 'Brings photographs back that were put aside.',
  params: byId,
  body: many,
});

export const removeSeries = declare({
  method: 'delete',
  path: '/api/series/:id',
  summary: 'Takes a series off the shelf. It can be put back.',
  params: byId,
});

export const restoreSeries = declare({
  method: 'post',
  path: '/api/series/:id/restore',
  summary: 'Puts a series back on the shelf.',
  params: byId,
  answer: seriesView,
});

export const getPalette = declare({
  method: 'get',
  path: '/api/series/:id/palette',
  summary:
    'The pigments that the current takes of a series use: with the names of the areas that they lie on, and in how many photographs; those of most photographs first.',
  params: byId,
  answer: z.array(
    z.object({
      pigment: pigmentSchema,
      depth: z.number(),
      areas: z.array(z.string()),
      photographs: z.int(),
    }),
  ),
});
