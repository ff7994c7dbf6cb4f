import { createHash } from 'node:crypto';
import { Op } from 'sequelize';
import { storeBlob } from '../data/blobs';
import { Photograph, SendOut, Take } from '../data/models';
import { framedSize, photographEdge, sizeAt } from '../../core/frame/geometry';
import { surveyEdge } from '../../core/engine/survey';
import { atHand } from '../data/carried';
import { sourceOf } from '../data/source';
import { formatNamed } from '../pictures/formats';
import { renderFile } from '../render/file';
import type { Services } from '../services';
import type { Queue } from './queue';

/** Shares of the whole time that decoding, rendering and encoding take, for the progress. */
const DECODED = 0.2;
const RENDERED = 0.7;
const ENCODED = 0.95;
/** A running send-out that has said nothing for this long was left by a server that is gone. */
const SILENT_MS = 60_000;

class Stopped extends Error {}

/** Keeps a row's progress up to date, and notices when it is stopped from outside. */
function progressOf(row: SendOut) {
  let written = Date.now();
  let pending = Promise.resolve();
  const controller = new AbortController();
  const write = async (progress: number) => {
    const [count] = await SendOut.update(
      { progress, touchedAt: new Date() },
      { where: { id: row.id, state: 'running' } },
    );
    if (count === 0) controller.abort(new Stopped());
  };
  return {
    signal: controller.signal,
    report: (progress: number) => {
      if (Date.now() - written < 200) return;
      written = Date.now();
      pending = pending.then(() => write(progress)).catch(() => undefined);
    },
    now: async (progress: number) => {
      await pending;
      await write(progress);
      controller.signal.throwIfAborted();
    },
  };
}

/** Makes one file: decodes, renders, encodes, and keeps the result in the database. */
export async function makeSendOut(services: Services, id: string): Promise<void> {
  const [claimed] = await SendOut.update(
    { state: 'running', progress: 0, problem: null, touchedAt: new Date() },
    {
      where: {
        id,
        [Op.or]: [
          { state: 'waiting' },
          { state: 'running', touchedAt: { [Op.lt]: new Date(Date.now() - SILENT_MS) } },
        ],
      },
    },
  );
  const row = claimed ? await SendOut.findByPk(id) : null;
  if (!row) return;

  const progress = progressOf(row);
  try {
    const take = await Take.findByPk(row.takeId);
    const photograph = await Photograph.findByPk(take!.photographId);
    const source = sourceOf(photograph!);
    const { settings, treatment } = row;
    await atHand(services.sequelize, treatment);
    const full = Math.max(source.width, source.height);
    const edge = photographEdge(source, treatment.frame, settings.longEdge ?? full);
    const size = framedSize(sizeAt(source, edge), treatment.frame);
    const tables = services.renderer.bake(treatment, source.grey, size.width * size.height);
    const pixels = await services.pictures.pixels(source, edge);
    await progress.now(DECODED);
    const rendered = formatNamed(settings.format).inStrips ? ENCODED : RENDERED;
    const job = {
      tables,
      pixels,
      survey: () => services.pictures.pixels(source, surveyEdge(edge)),
      grey: source.grey,
      treatment,
      bits: settings.bits,
      signal: progress.signal,
      onProgress: (done: number) => progress.report(DECODED + done * (rendered - DECODED)),
    };
    const file = await renderFile(services.renderer, job, settings);
    await progress.now(ENCODED);
    const sha256 = createHash('sha256').update(file).digest('hex');
    await services.sequelize.transaction(async transaction => {
      await storeBlob(transaction, sha256, file.length, oneChunk(file));
      await SendOut.update(
        {
          state: 'done',
          progress: 1,
          resultSha256: sha256,
          resultSize: String(file.length),
          touchedAt: new Date(),
        },
        { where: { id, state: 'running' }, transaction },
      );
    });
  } catch (error) {
    if (error instanceof Stopped || progress.signal.aborted) return;
    services.log.error({ err: error, sendOut: id }, 'send-out failed');
    const problem = error instanceof Error ? error.message.slice(0, 300) : 'failed';
    await SendOut.update({ state: 'failed', problem }, { where: { id, state: 'running' } });
  }
}

async function* oneChunk(bytes: Buffer) {
  yield bytes;
}

/** Takes part in making send-outs, and asks again for those that a killed server left. */
export async function workOnSendOuts(services: Services, queue: Queue): Promise<void> {
  await queue.workOn(id => makeSendOut(services, id));
  const takeUpAgain = async () => {
    const left = await SendOut.findAll({
      where: { state: 'running', touchedAt: { [Op.lt]: new Date(Date.now() - SILENT_MS) } },
    });
    for (const { id } of left) await queue.askForSendOut(id);
  };
  const again = () =>
    takeUpAgain().catch(error => services.log.warn({ err: error }, 'send-outs not taken up'));
  await again();
  setInterval(() => void again(), SILENT_MS).unref();
}
