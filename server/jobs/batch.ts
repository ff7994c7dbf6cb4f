import { withWork } from '../../core/treatment/batch';
import { following } from '../../core/treatment/following';
import { withOwnChanges } from '../../core/treatment/own-changes';
import type { Treatment } from '../../core/treatment/treatment';
import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { createTake, currentTreatment, saveTreatment, StaleRevision, undo } from '../data/history';
import { Batch, BatchItem, Photograph, Take } from '../data/models';
import { touchSeries } from '../data/touch';
import { sharedLook } from '../data/shared-looks';
import type { Services } from '../services';
import type { Queue } from './queue';

/** What is done to many photographs at once: one after another, each by itself. */

/** Notes a batch, for the takes that photographs are shown by or for those that are named, and asks for it to be done. */
export async function askForBatch(
  queue: Queue,
  of: Pick<Batch, 'seriesId' | 'label' | 'work'>,
  items: readonly { photographId: string; takeId?: string }[],
  transaction: Transaction,
): Promise<Batch> {
  const { seriesId, label, work } = of;
  const batch = await Batch.create({ seriesId, label, work }, { transaction });
  await BatchItem.bulkCreate(
    items.map((item, place) => ({ ...item, batchId: batch.id, place, command: randomUUID() })),
    { transaction },
  );
  await queue.ask('batch', [batch.id], transaction);
  await touchSeries(seriesId, transaction);
  return batch;
}

/** A treatment with a batch's work done to it; the very same where that changes nothing. */
async function done(before: Treatment, { work }: Batch): Promise<Treatment> {
  if (work.do !== 'follow') return withOwnChanges(before, withWork(before, work));
  const look = await sharedLook(work.look);
  return look ? following(before, look) : before;
}

/** Does the work on one photograph, and notes what has become of it. Once, also where it is killed half way and begun again. */
async function doOne({ sequelize }: Services, batch: Batch, item: BatchItem): Promise<void> {
  const { label, work } = batch;
  const photograph = await Photograph.findOne({ where: { id: item.photographId, deletedAt: null } });
  if (!photograph)
    return void (await item.update({ state: 'failed', problem: 'is not in the series any more' }));
  const take = await Take.findByPk(work.do === 'follow' ? item.takeId! : photograph.currentTakeId!);
  if (!take || take.deletedAt) return void (await item.update({ state: 'failed', problem: 'is put aside' }));
  if (work.into === 'current' && take.lastCommand === item.command) {
    return void (await item.update({ state: 'done', takeId: take.id, afterState: take.currentState }));
  }
  const before = await currentTreatment(take);
  const treatment = await done(before, batch);
  if (treatment === before) return void (await item.update({ state: 'same' }));
  if (work.into === 'new') {
    await sequelize.transaction(async transaction => {
      await Photograph.findByPk(photograph.id, { lock: transaction.LOCK.UPDATE, transaction });
      // Another worker may have been at it meanwhile.
      await item.reload({ transaction });
      if (item.state !== 'waiting') return;
      const fresh = await createTake(photograph.id, treatment, label.slice(0, 60), transaction);
      await photograph.update({ currentTakeId: fresh.id }, { transaction });
      const made = { state: 'done', takeId: fresh.id, afterState: fresh.currentState } as const;
      await item.update({ ...made, beforeTake: take.id }, { transaction });
    });
    return;
  }
  const from = { revision: take.revision, command: item.command };
  await saveTreatment(sequelize, take.id, from, treatment, label);
  await take.reload();
  await item.update({ state: 'done', takeId: take.id, afterState: take.currentState });
}

/** Works through what waits of a batch, until it is stopped or nothing waits any more. */
export async function workOnBatch(services: Services, id: string): Promise<void> {
  for (;;) {
    if (services.closing.aborted) throw new Error('left to whoever is here next');
    const batch = await Batch.findByPk(id);
    if (batch?.state !== 'running') return;
    const item = await BatchItem.findOne({ where: { batchId: id, state: 'waiting' }, order: ['place'] });
    if (!item) {
      await Batch.update({ state: 'done' }, { where: { id, state: 'running' } });
      return;
    }
    try {
      await doOne(services, batch, item);
    } catch (error) {
      if (services.closing.aborted) throw error;
      // Saved by somebody else meanwhile: it is done to what is there then.
      if (error instanceof StaleRevision) continue;
      services.log.warn({ err: error, batch: id }, 'one of a batch failed');
      await item.update({ state: 'failed', problem: (error as Error).message.slice(0, 300) });
    }
  }
}

/** Undoes one photograph's part; what was changed since stays, and says so. */
async function undoOne(
  { sequelize }: Services,
  { work }: Batch,
  item: BatchItem,
): Promise<Partial<BatchItem>> {
  const take =
    item.takeId === null ? null : await Take.findOne({ where: { id: item.takeId, deletedAt: null } });
  if (!take) return { problem: 'its take is put aside' };
  if (take.currentState !== item.afterState) return { problem: 'was changed since, and stays' };
  if (work.into === 'current') {
    await undo(sequelize, take.id, { revision: take.revision });
    return { state: 'undone', problem: null };
  }
  await sequelize.transaction(async transaction => {
    const photograph = await Photograph.findByPk(item.photographId, {
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (photograph?.currentTakeId === take.id) {
      await photograph.update({ currentTakeId: item.beforeTake }, { transaction });
    }
    await take.update({ deletedAt: new Date() }, { transaction });
  });
  return { state: 'undone', problem: null };
}

/** Undoes all that a batch has done. */
export async function undoBatch(services: Services, batch: Batch): Promise<void> {
  const items = await BatchItem.findAll({ where: { batchId: batch.id, state: 'done' }, order: ['place'] });
  for (const item of items) {
    const became = await undoOne(services, batch, item).catch((error: Error) => ({
      problem: error.message.slice(0, 300),
    }));
    await item.update(became);
  }
  await batch.update({ state: 'undone' });
  await touchSeries(batch.seriesId);
}

/** Does again what was undone of a batch, to the treatments that are there now. Throws nothing where nothing was. */
export async function redoBatch({ sequelize }: Services, queue: Queue, batch: Batch): Promise<void> {
  await sequelize.transaction(async transaction => {
    const [taken] = await Batch.update(
      { state: 'running' },
      { where: { id: batch.id, state: 'undone' }, transaction },
    );
    if (taken === 0) return;
    await BatchItem.update({ problem: null }, { where: { batchId: batch.id, state: 'done' }, transaction });
    const undone = await BatchItem.findAll({ where: { batchId: batch.id, state: 'undone' }, transaction });
    for (const item of undone) {
      // Another name: this is not the change that was undone.
      await item.update({ state: 'waiting', command: randomUUID() }, { transaction });
    }
    await queue.ask('batch', [batch.id], transaction);
    await touchSeries(batch.seriesId, transaction);
  });
  queue.wake();
}

/** Asks again for batches that were lost with the server that worked on them. */
async function takeUpLost({ sequelize }: Services, queue: Queue): Promise<void> {
  await sequelize.transaction(async transaction => {
    const lost = await queue.forgotten('batch', sequelize, transaction);
    if (lost.length) await queue.ask('batch', lost, transaction);
  });
  queue.wake();
}

/** Looked for lost ones so often. */
const AGAIN_MS = 60_000;

/** Takes part in working on batches, and takes up at the start and by the clock those that were lost. */
export async function workOnBatches(services: Services, queue: Queue): Promise<void> {
  await queue.workOn('batch', id => workOnBatch(services, id));
  const again = () =>
    takeUpLost(services, queue).catch(error => services.log.warn({ err: error }, 'batches not taken up'));
  await again();
  setInterval(() => void again(), AGAIN_MS).unref();
}
