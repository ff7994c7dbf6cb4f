import PQueue from 'p-queue';
import { QueryTypes } from 'sequelize';
import type { Measures } from '../../core/analysis/evenness';
import { getEvenness } from '../../contract/evenness';
import { Photograph, Take } from '../data/models';
import { measuresOf } from '../jobs/measured';
import type { Services } from '../services';
import { implement } from './route';
import { findSeries } from './series';

/** An answer waits at most so long for what is not measured yet. */
const PATIENCE_MS = 600;
/** Measured at once: most of them are only read. */
const AT_ONCE = 4;

interface Row {
  photograph: Photograph;
  take: Take;
  isBare: boolean;
  isDone: boolean;
  measures: Measures | null;
}

/** What is measured of the photographs of a series; what is not there yet goes on being measured, and is there the next time. */
export function evennessRoutes(services: Services) {
  const queue = new PQueue({ concurrency: AT_ONCE });
  /** Those that are being measured, by take and state. */
  const underway = new Map<string, Promise<Measures>>();

  const measured = (take: Take, photograph: Photograph): Promise<Measures> => {
    const key = `${take.id} ${take.currentState}`;
    let running = underway.get(key);
    if (!running) {
      running = queue.add(() => measuresOf(services, take, photograph)).finally(() => underway.delete(key));
      running.catch(error => services.log.warn({ err: error, take: take.id }, 'not measured'));
      underway.set(key, running);
    }
    return running;
  };

  return [
    implement(getEvenness, async ({ params }) => {
      const series = await findSeries(params.id);
      const photographs = await Photograph.findAll({
        where: { seriesId: series.id, deletedAt: null },
        order: ['place', 'id'],
      });
      const takes = await Take.findAll({ where: { id: photographs.map(p => p.currentTakeId!) } });
      const bare = await services.sequelize.query<{ id: string }>(
        `SELECT t.id FROM takes t JOIN take_states s ON s.take_id = t.id AND s.number = t.current_state
          WHERE t.id = ANY($1::uuid[]) AND s.kinds = '[]'`,
        { bind: [takes.map(t => t.id)], type: QueryTypes.SELECT },
      );
      const isBare = new Set(bare.map(row => row.id));
      const takeOf = new Map(takes.map(t => [t.id, t]));
      const rows = photographs.map(photograph => {
        const take = takeOf.get(photograph.currentTakeId!)!;
        const row: Row = { photograph, take, measures: null, isBare: isBare.has(take.id), isDone: false };
        return row;
      });
      const work = rows
        .filter(r => !r.isBare)
        .map(async row => {
          row.measures = await measured(row.take, row.photograph).catch(() => null);
          row.isDone = true;
        });
      await Promise.race([Promise.all(work), new Promise(done => setTimeout(done, PATIENCE_MS))]);
      return {
        photographs: rows.map(({ photograph, take, isBare, measures }) => ({
          id: photograph.id,
          takeId: take.id,
          revision: take.revision,
          bare: isBare,
          measures,
        })),
        waiting: rows.filter(r => !r.isBare && !r.isDone).length,
      };
    }),
  ];
}
