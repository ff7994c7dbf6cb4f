import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { Photograph, Series } from '../data/models';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { route } from './route';
import { listPhotographs } from './photographs';
import { seriesSummary, seriesView } from './views';

const title = z.string().trim().min(1).max(120);
const byId = z.strictObject({ id: z.uuid() });

export async function findSeries(id: string): Promise<Series> {
  const series = await Series.findOne({ where: { id, deletedAt: null } });
  if (!series) throw notFound('series');
  return series;
}

async function viewSeries({ sequelize }: Services, series: Series) {
  const { id, title, caption, coverId } = series;
  return { id, title, caption, coverId, photographs: await listPhotographs(sequelize, { seriesId: id }) };
}

interface Summary {
  id: string;
  title: string;
  caption: string;
  touchedAt: Date;
  photographs: number;
  treated: number;
  stack: object[] | null;
  last: object | null;
}

/** One query for the whole shelf: counts, the pictures on top, and where work stopped. */
const SHELF = `
  SELECT s.id, s.title, s.caption, s.touched_at AS "touchedAt",
    count(p.id)::int AS photographs,
    (count(p.id) FILTER (WHERE jsonb_array_length(st.treatment->'steps') > 0))::int AS treated,
    (array_to_json((array_agg(
       json_build_object('takeId', t.id, 'revision', t.revision, 'width', p.width, 'height', p.height)
       ORDER BY (p.id = s.cover_id) DESC NULLS LAST, p.place) FILTER (WHERE p.id IS NOT NULL))[1:3])) AS stack,
    (SELECT json_build_object('photographId', lp.id, 'title', lp.title)
       FROM photographs lp JOIN takes lt ON lt.photograph_id = lp.id JOIN take_states ls ON ls.take_id = lt.id
      WHERE lp.series_id = s.id AND lp.deleted_at IS NULL AND lt.deleted_at IS NULL AND ls.number > 0
      ORDER BY ls.created_at DESC LIMIT 1) AS last
  FROM series s
  LEFT JOIN photographs p ON p.series_id = s.id AND p.deleted_at IS NULL
  LEFT JOIN takes t ON t.id = p.current_take_id
  LEFT JOIN take_states st ON st.take_id = t.id AND st.number = t.current_state
  WHERE s.deleted_at IS NULL
  GROUP BY s.id
  ORDER BY s.touched_at DESC, s.id`;

export function seriesRoutes(services: Services) {
  const { sequelize } = services;
  return [
    route({
      method: 'get',
      path: '/api/series',
      summary: 'All series, the last touched first.',
      answer: z.array(seriesSummary),
      handle: async () => {
        const rows = await sequelize.query<Summary>(SHELF, { type: QueryTypes.SELECT });
        return rows.map(r => ({ ...r, stack: r.stack ?? [] }));
      },
    }),
    route({
      method: 'post',
      path: '/api/series',
      summary: 'Begins a series.',
      body: z.strictObject({ title, caption: z.string().max(2000).default('') }),
      answer: seriesView,
      handle: async ({ body }) => viewSeries(services, await Series.create(body)),
    }),
    route({
      method: 'get',
      path: '/api/series/:id',
      summary: 'A series with its photographs in order.',
      params: byId,
      answer: seriesView,
      handle: async ({ params }) => viewSeries(services, await findSeries(params.id)),
    }),
    route({
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
      handle: async ({ params, body }) => {
        const series = await findSeries(params.id);
        if (body.coverId) {
          const cover = await Photograph.findOne({
            where: { id: body.coverId, seriesId: series.id, deletedAt: null },
          });
          if (!cover) throw notFound('photograph in this series');
        }
        await series.update({ ...body, touchedAt: new Date() });
        return viewSeries(services, series);
      },
    }),
    route({
      method: 'put',
      path: '/api/series/:id/order',
      summary: 'Sets the order of the photographs: every id once.',
      params: byId,
      body: z.strictObject({ photographs: z.array(z.uuid()).max(10_000) }),
      answer: seriesView,
      handle: async ({ params, body }) => {
        const series = await findSeries(params.id);
        await sequelize.transaction(async transaction => {
          const held = await Photograph.findAll({
            where: { seriesId: series.id, deletedAt: null },
            lock: transaction.LOCK.UPDATE,
            transaction,
          });
          const places = new Map(body.photographs.map((id, i) => [id, i]));
          if (places.size !== held.length || !held.every(p => places.has(p.id))) {
            throw new Problem(
              409,
              'The series has other photographs by now.',
              'Load it again, then order it.',
            );
          }
          for (const p of held) await p.update({ place: places.get(p.id)! }, { transaction });
          await series.update({ touchedAt: new Date() }, { transaction });
        });
        return viewSeries(services, series);
      },
    }),
    route({
      method: 'delete',
      path: '/api/series/:id',
      summary: 'Takes a series off the shelf. It can be put back.',
      params: byId,
      handle: async ({ params }) => {
        await (await findSeries(params.id)).update({ deletedAt: new Date() });
      },
    }),
    route({
      method: 'post',
      path: '/api/series/:id/restore',
      summary: 'Puts a series back on the shelf.',
      params: byId,
      answer: seriesView,
      handle: async ({ params }) => {
        const series = await Series.findByPk(params.id);
        if (!series) throw notFound('series');
        await series.update({ deletedAt: null });
        return viewSeries(services, series);
      },
    }),
  ];
}
