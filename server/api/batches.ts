import { beginBatch, getBatch, redoBatch, stopBatch, undoBatch } from '../../contract/batches';
import { wholeFrame } from '../../core/frame/frame';
import type { BatchWork } from '../../core/treatment/batch';
import { stepKind, type Kind } from '../../core/steps';
import { keepAllCarried } from '../data/carried';
import { Batch, BatchItem, Photograph } from '../data/models';
import { askForBatch, redoBatch as redoAll, undoBatch as undoAll } from '../jobs/batch';
import type { Queue } from '../jobs/queue';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

async function view({ id, seriesId, label, state }: Batch) {
  const items = await BatchItem.findAll({ where: { batchId: id }, order: ['place'] });
  return {
    id,
    seriesId,
    label,
    state,
    items: items.map(({ photographId, state: became, problem }) => ({
      photographId,
      state: became,
      problem,
    })),
  };
}

async function findBatch(id: string): Promise<Batch> {
  const batch = await Batch.findByPk(id);
  if (!batch) throw notFound('change of many');
  return batch;
}

/** Changes of many photographs at once: begun, looked after, stopped, undone. */
export function batchRoutes(services: Services, queue: Queue) {
  const { sequelize } = services;
  return [
    implement(beginBatch, async ({ params, body }, _req, _res, whole) => {
      const series = await findSeries(params.id);
      const { label, photographs, into, work: asked } = body;
      let work: BatchWork;
      if (asked.do === 'lay') {
        if (!whole) throw new Problem(400, 'The request is not valid.', 'treatment: is missing');
        await keepAllCarried(sequelize, whole.carried);
        const treatment = asked.laying.frame ? whole.treatment : { ...whole.treatment, frame: wholeFrame() };
        work = { do: 'lay', treatment, laying: asked.laying };
      } else {
        if (!stepKind(asked.kind)) {
          throw new Problem(400, 'The request is not valid.', `work.kind: unknown step kind "${asked.kind}"`);
        }
        work = { ...asked, kind: asked.kind as Kind };
      }
      const there = await Photograph.count({
        where: { id: photographs, seriesId: series.id, deletedAt: null },
      });
      if (there !== photographs.length) throw notFound('photograph in this series');
      const batch = await sequelize.transaction(transaction =>
        askForBatch(
          queue,
          { seriesId: series.id, label, work: { ...work, into } },
          photographs.map(photographId => ({ photographId })),
          transaction,
        ),
      );
      queue.wake();
      return view(batch);
    }),
    implement(getBatch, async ({ params }) => view(await findBatch(params.id))),
    implement(stopBatch, async ({ params }) => {
      const batch = await findBatch(params.id);
      await Batch.update({ state: 'stopped' }, { where: { id: batch.id, state: 'running' } });
      return view(await batch.reload());
    }),
    implement(undoBatch, async ({ params }) => {
      const batch = await findBatch(params.id);
      if (batch.state === 'running') throw new Problem(409, 'It still runs.', 'Stop it first.');
      await undoAll(services, batch);
      return view(await batch.reload());
    }),
    implement(redoBatch, async ({ params }) => {
      const batch = await findBatch(params.id);
      await redoAll(services, queue, batch);
      return view(await batch.reload());
    }),
  ];
}
