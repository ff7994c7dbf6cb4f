import PQueue from 'p-queue';
import { literal, Op } from 'sequelize';
import { sha256Of, storeBlob } from '../data/blobs';
import { currentCredits } from '../data/credits';
import { Photograph, SendOut, Take } from '../data/models';
import { sendOutSettings } from '../../contract/send-outs';
import { atHand } from '../data/carried';
import { sourceOf } from '../data/source';
import { needRoom } from '../pictures/disk';
import { takeInWords } from '../../words/words';
import { formatNamed } from '../pictures/formats';
import { withMetadata } from '../pictures/metadata';
import { renderFile } from '../render/file';
import type { Services } from '../services';
import { outputOf } from '../render/output';
import { renderJobOf } from './output';
import type { Queue } from './queue';

/** Shares of the whole time that decoding, rendering and encoding take, for the progress. */
const DECODED = 0.2;
const RENDERED = 0.7;
const ENCODED = 0.95;
/** Of pictures with more pixels one is made at a time: each takes half a gigabyte and more. */
const LARGE = 40e6;
const largeOnes = new PQueue({ concurrency: 1 });
/** A running send-out that has said nothing for this long was left by a server that is gone. */
const SILENT_MS = 60_000;
/** A running one says so this often, also while a step of it takes long. */
const BEAT_MS = 15_000;

class Stopped extends Error {}

/** A row for as long as it is this attempt's: not stopped, and not given to another. */
const mine = ({ id, attempt }: SendOut) => ({ id, attempt, state: 'running' as const });

/** Keeps a row's progress up to date, and notices when it is stopped from outside. */
function progressOf(row: SendOut, closing: AbortSignal) {
  let written = Date.now();
  let pending = Promise.resolve();
  let reached = 0;
  const controller = new AbortController();
  const signal = AbortSignal.any([controller.signal, closing]);
  const write = async (progress: number) => {
    reached = progress;
    const [count] = await SendOut.update({ progress, touchedAt: new Date() }, { where: mine(row) });
    if (count === 0) controller.abort(new Stopped());
  };
  const beat = setInterval(() => void write(reached).catch(() => undefined), BEAT_MS);
  return {
    end: () => clearInterval(beat),
    signal,
    report: (progress: number) => {
      if (Date.now() - written < 200) return;
      written = Date.now();
      pending = pending.then(() => write(progress)).catch(() => undefined);
    },
    now: async (progress: number) => {
      await pending;
      await write(progress);
      signal.throwIfAborted();
    },
  };
}

/** Makes one file: decodes, renders, encodes, and keeps the result in the database. */
export async function makeSendOut(services: Services, id: string): Promise<void> {
  const [claimed] = await SendOut.update(
    { state: 'running', progress: 0, problem: null, touchedAt: new Date(), attempt: literal('attempt + 1') },
    { where: { id, state: 'waiting' } },
  );
  const row = claimed ? await SendOut.findByPk(id) : null;
  if (!row) return;

  const progress = progressOf(row, services.closing);
  try {
    const take = await Take.findByPk(row.takeId);
    const photograph = await Photograph.findByPk(take!.photographId);
    const source = sourceOf(photograph!);
    const { treatment } = row;
    const settings = sendOutSettings.parse(row.settings);
    await atHand(services.sequelize, treatment);
    const output = outputOf(source, treatment, settings);
    const { size, dpi } = output;
    const render = async () => {
      services.renderer.bakeAhead(output.treatment, source.grey, size.width * size.height);
      const rendering = await renderJobOf(services, source, output);
      await progress.now(DECODED);
      const rendered = formatNamed(settings.format).inStrips?.(settings) ? ENCODED : RENDERED;
      const job = {
        ...rendering,
        signal: progress.signal,
        onProgress: (done: number) => progress.report(DECODED + done * (rendered - DECODED)),
      };
      const { author, rights } = await currentCredits();
      const caption = { title: photograph!.title, rights: rights || author };
      return renderFile(services.renderer, job, settings, { dpi, caption });
    };
    const isLarge = source.width * source.height > LARGE;
    const { file: bare, note } = await (isLarge ? largeOnes.add(render) : render());
    await progress.now(ENCODED);
    const file = await withMetadata(bare, settings.format, services.config.cacheFolder, {
      what: settings.metadata,
      credits: await currentCredits(),
      treatment: takeInWords(take!),
      dpi,
      original: () => services.original(source.sha256),
    });
    await needRoom(services.config.cacheFolder, 2 * file.length);
    const sha256 = await sha256Of(file);
    await services.sequelize.transaction(async transaction => {
      await storeBlob(transaction, sha256, file.length, oneChunk(file));
      await SendOut.update(
        {
          state: 'done',
          progress: 1,
          note,
          resultSha256: sha256,
          resultSize: String(file.length),
          touchedAt: new Date(),
        },
        { where: mine(row), transaction },
      );
    });
  } catch (error) {
    if (services.closing.aborted) {
      // It is left to whoever is here next.
      await SendOut.update({ state: 'waiting', progress: 0 }, { where: mine(row) });
      throw error;
    }
    if (error instanceof Stopped || progress.signal.aborted) return;
    services.log.error({ err: error, sendOut: id }, 'send-out failed');
    const problem = error instanceof Error ? error.message.slice(0, 300) : 'failed';
    await SendOut.update({ state: 'failed', problem }, { where: mine(row) });
  } finally {
    progress.end();
  }
}

async function* oneChunk(bytes: Buffer) {
  yield bytes;
}

/** Asks again for send-outs that were lost: left by a server that is gone, or waiting with nothing to make them. */
export async function takeUpLost({ sequelize }: Services, queue: Queue): Promise<void> {
  await sequelize.transaction(async transaction => {
    await SendOut.update(
      { state: 'waiting', progress: 0 },
      {
        where: { state: 'running', touchedAt: { [Op.lt]: new Date(Date.now() - SILENT_MS) } },
        transaction,
      },
    );
    const lost = await queue.forgotten('send-out', sequelize, transaction);
    if (lost.length) await queue.ask('send-out', lost, transaction);
  });
  queue.wake();
}

/** Takes part in making send-outs, and takes up at the start and by the clock those that were lost. */
export async function workOnSendOuts(services: Services, queue: Queue): Promise<void> {
  await queue.workOn('send-out', id => makeSendOut(services, id));
  const again = () =>
    takeUpLost(services, queue).catch(error => services.log.warn({ err: error }, 'send-outs not taken up'));
  await again();
  setInterval(() => void again(), SILENT_MS).unref();
}
