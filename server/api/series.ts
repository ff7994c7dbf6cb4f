import { QueryTypes } from 'sequelize';
import {
  changeSeries,
  createSeries,
  getPalette,
  getSeries,
  listSeries,
  orderSeries,
  bringBackMany,
  putAsideMany,
  removeSeries,
  restoreSeries,
  type SeriesSummary,
} from '../../contract/series';
import { paletteOf } from '../../core/treatment/palette';
import type { Treatment } from '../../core/treatment/treatment';
import { currentTreatment } from '../data/history';
import { Photograph, Series, Take } from '../data/models';
import type { Services } from '../services';
import { touchSeries } from '../data/touch';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { listPhotographs } from './photographs';

export async function findSeries(id: string): Promise<Series> {
  const series = await Series.findOne({ where: { id, deletedAt: null } });
  if (!series) throw notFound('series');
  return series;
}

async function viewSeries({ sequelize }: Services, series: Series) {
  const { id, title, caption, coverId } = series;
  return { id, title, caption, coverId, photographs: await listPhotographs(sequelize, { seriesId: id }) };
}

/** A row of the shelf: as clients get it, but for what an empty series has none of. */
type Row = Omit<SeriesSummary, 'stack' | 'touchedAt'> & {
  stack: SeriesSummary['stack'] | null;
  touchedAt: Date;
};

/** One query for the whole shelf: counts, the pictures on top, and where work stopped. */
const SHELF = `
  SELECT s.id, s.title, s.caption, s.touched_at AS "touchedAt",
    count(p.id)::int AS photographs,
    (count(p.id) FILTER (WHERE st.steps > 0))::int AS treated,
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

/** Puts photographs of a series aside, or brings them back: all of them, or none. */
async function aside(series: Series, ids: readonly string[], deletedAt: Date | null): Promise<void> {
  await series.sequelize.transaction(async transaction => {
    const where = { id: [...ids], seriesId: series.id };
    const [count] = await Photograph.update({ deletedAt }, { where, transaction });
    if (count !== new Set(ids).size) throw notFound('photograph in this series');
    await touchSeries(series.id, transaction);
  });
}

export function seriesRoutes(services: Services) {
  const { sequelize } = services;
  return [
    implement(listSeries, async () => {
      const rows = await sequelize.query<Row>(SHELF, { type: QueryTypes.SELECT });
      return rows.map(r => ({ ...r, touchedAt: r.touchedAt.toISOString(), stack: r.stack ?? [] }));
    }),
    implement(createSeries, async ({ body }) => viewSeries(services, await Series.create(body))),
    implement(getSeries, async ({ params }) => viewSeries(services, await findSeries(params.id))),
    implement(getPalette, async ({ params }) => {
      const series = await findSeries(params.id);
      const tinted = await services.sequelize.query<{ id: string }>(
        `SELECT t.id FROM photographs p JOIN takes t ON t.id = p.current_take_id
           JOIN take_states s ON s.take_id = t.id AND s.number = t.current_state
          WHERE p.series_id = $1 AND p.deleted_at IS NULL AND s.kinds @> '["wash"]' ORDER BY p.place, p.id`,
        { bind: [series.id], type: QueryTypes.SELECT },
      );
      const treatments: Treatment[] = [];
      for (const { id } of tinted) {
        const take = await Take.findByPk(id);
        if (take) treatments.push(await currentTreatment(take));
      }
      return paletteOf(treatments);
    }),
    implement(changeSeries, async ({ params, body }) => {
      const series = await findSeries(params.id);
      if (body.coverId) {
        const cover = await Photograph.findOne({
          where: { id: body.coverId, seriesId: series.id, deletedAt: null },
        });
        if (!cover) throw notFound('photograph in this series');
      }
      await series.update(body);
      await touchSeries(series.id);
      return viewSeries(services, series);
    }),
    implement(orderSeries, async ({ params, body }) => {
      const series = await findSeries(params.id);
      await sequelize.transaction(async transaction => {
        const held = await Photograph.findAll({
          where: { seriesId: series.id, deletedAt: null },
          lock: transaction.LOCK.UPDATE,
          transaction,
        });
        const places = new Map(body.photographs.map((id, i) => [id, i]));
        if (places.size !== held.length || !held.every(p => places.has(p.id))) {
          throw new Problem(409, 'The series has other photographs by now.', 'Load it again, then order it.');
        }
        await sequelize.query(
          `UPDATE photographs SET place = given.place - 1
             FROM unnest($1::uuid[]) WITH ORDINALITY AS given (id, place) WHERE photographs.id = given.id`,
          { bind: [body.photographs], transaction },
        );
        await touchSeries(series.id, transaction);
      });
      return viewSeries(services, series);
    }),
    implement(putAsideMany, async ({ params, body }) => {
      await aside(await findSeries(params.id), body.photographs, new Date());
    }),
    implement(bringBackMany, async ({ params, body }) => {
      await aside(await findSeries(params.id), body.photographs, null);
    }),
    implement(removeSeries, async ({ params }) => {
      await (await findSeries(params.id)).update({ deletedAt: new Date() });
    }),
    implement(restoreSeries, async ({ params }) => {
      const series = await Series.findByPk(params.id);
      if (!series) throw notFound('series');
      await series.update({ deletedAt: null });
      return viewSeries(services, series);
    }),
  ];
}
