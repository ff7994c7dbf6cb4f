import { QueryTypes } from 'sequelize';
import {
  clearSendOut,
  clearSendOuts,
  getCredits,
  getOutputPart,
  getSentFile,
  getSentFiles,
  keepSettings,
  listFormats,
  listKeptSettings,
  listSendOuts,
  pauseSendOuts,
  removeKeptSettings,
  resumeSendOuts,
  retrySendOut,
  sendOutSettings,
  sendTakes,
  setCredits,
  stopSendOut,
  type SendOut as SendOutView,
} from '../../contract/send-outs';
import { fileNameOf, slug } from '../../contract/file-name';
import { currentTreatment } from '../data/history';
import { readBlob } from '../data/blobs';
import { currentCredits } from '../data/credits';
import { Credits, KeptSettings, Photograph, SendOut, Take } from '../data/models';
import { sourceOf } from '../data/source';
import { inTurn, partOfOutput } from '../jobs/output';
import type { Queue } from '../jobs/queue';
import { formatNamed, formatViews, impossible } from '../pictures/formats';
import type { Services } from '../services';
import { giveBytes } from './bytes';
import { giveZip } from './zip';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';
import { findTake } from './takes';

const LIST = `
  SELECT s.id, s.take_id AS "takeId", t.photograph_id AS "photographId", t.revision, p.title, t.letter,
    s.file_name AS "fileName", s.settings, s.state, s.progress, s.problem, s.note, s.result_size::float8 AS size
  FROM send_outs s JOIN takes t ON t.id = s.take_id JOIN photographs p ON p.id = t.photograph_id
  WHERE `;

/** Settings as they are kept, with what has come to them since. */
const keptView = ({ id, name, settings }: KeptSettings) => ({
  id,
  name,
  settings: sendOutSettings.parse(settings),
});

export function sendOutRoutes(services: Services, queue: Queue) {
  const { sequelize } = services;
  const list = (where: string, value: unknown) =>
    sequelize
      .query<SendOutView>(`${LIST} ${where} ORDER BY s.created_at, s.id`, {
        bind: [value],
        type: QueryTypes.SELECT,
      })
      .then(rows => rows.map(row => ({ ...row, settings: sendOutSettings.parse(row.settings) })));
  const find = async (id: string) => {
    const row = await SendOut.findByPk(id);
    if (!row) throw notFound('file');
    return row;
  };
  return [
    implement(listFormats, async () => formatViews()),
    implement(listSendOuts, ({ query }) => list('s.series_id = $1', query.series)),
    implement(sendTakes, async ({ body }) => {
      const why = impossible(body.settings);
      if (why) throw new Problem(400, 'No file can be like that.', why);
      const series = await findSeries(body.series);
      const photographs = await Photograph.findAll({
        where: { seriesId: series.id, deletedAt: null },
        order: ['place', 'createdAt', 'id'],
      });
      const numbers = new Map(
        photographs.map((p, i) => [p.id, { number: i + 1, title: p.title, original: p.fileName }]),
      );
      const takes = await Take.findAll({ where: { id: body.takes, deletedAt: null } });
      const ordered = body.takes.map(id => takes.find(t => t.id === id));
      const now = Date.now();
      const rows = await Promise.all(
        ordered.map(async (take, i) => {
          const photograph = take && numbers.get(take.photographId);
          if (!photograph) throw notFound('take in this series');
          return {
            takeId: take.id,
            seriesId: series.id,
            // In the list they stand as they were sent.
            createdAt: new Date(now + i),
            treatment: await currentTreatment(take),
            settings: body.settings,
            fileName: fileNameOf(
              { ...photograph, series: series.title, letter: take.letter, date: new Date() },
              body.settings.names,
              formatNamed(body.settings.format).ending,
            ),
          };
        }),
      );
      const ids = await sequelize.transaction(async transaction => {
        const made = (await SendOut.bulkCreate(rows, { transaction })).map(row => row.id);
        await queue.ask('send-out', made, transaction);
        return made;
      });
      queue.wake();
      return list('s.id = ANY($1)', ids);
    }),
    implement(pauseSendOuts, async ({ params }) => {
      await SendOut.update({ state: 'paused' }, { where: { seriesId: params.id, state: 'waiting' } });
      return list('s.series_id = $1', params.id);
    }),
    implement(resumeSendOuts, async ({ params }) => {
      await sequelize.transaction(async transaction => {
        const held = await SendOut.findAll({
          where: { seriesId: params.id, state: 'paused' },
          order: ['createdAt', 'id'],
          lock: true,
          transaction,
        });
        const ids = held.map(row => row.id);
        await SendOut.update({ state: 'waiting', progress: 0 }, { where: { id: ids }, transaction });
        if (ids.length) await queue.ask('send-out', ids, transaction);
      });
      queue.wake();
      return list('s.series_id = $1', params.id);
    }),
    implement(clearSendOuts, async ({ params }) => {
      await SendOut.destroy({ where: { seriesId: params.id, state: ['done', 'stopped'] } });
    }),
    implement(getSentFiles, async ({ params }, _req, res) => {
      const series = await findSeries(params.id);
      const done = await SendOut.findAll({
        where: { seriesId: series.id, state: 'done' },
        order: ['createdAt', 'id'],
      });
      if (!done.length)
        throw new Problem(
          409,
          'Nothing of this series is finished.',
          'Wait until a file is, then take them.',
        );
      await giveZip(
        res,
        `${slug(series.title) || 'series'}.zip`,
        done.map(({ fileName: name, resultSha256, touchedAt: made }) => ({
          name,
          made,
          open: () => readBlob(sequelize, resultSha256!),
        })),
      );
    }),
    implement(getCredits, currentCredits),
    implement(setCredits, async ({ body }) => {
      await Credits.upsert({ one: true, ...body });
      return currentCredits();
    }),
    implement(listKeptSettings, async () => (await KeptSettings.findAll({ order: ['name'] })).map(keptView)),
    implement(keepSettings, async ({ body }) => {
      const why = impossible(body.settings);
      if (why) throw new Problem(400, 'No file can be like that.', why);
      const known = await KeptSettings.findOne({ where: { name: body.name } });
      return keptView(known ? await known.update(body) : await KeptSettings.create(body));
    }),
    implement(removeKeptSettings, async ({ params }) => {
      if (!(await KeptSettings.destroy({ where: { id: params.id } }))) throw notFound('settings');
    }),
    implement(retrySendOut, async ({ params }) => {
      const row = await find(params.id);
      if (row.state !== 'failed' && row.state !== 'stopped') {
        throw new Problem(409, 'Only what failed or was stopped can be tried again.');
      }
      await sequelize.transaction(async transaction => {
        await row.update({ state: 'waiting', progress: 0, problem: null, note: null }, { transaction });
        await queue.ask('send-out', [row.id], transaction);
      });
      queue.wake();
      return (await list('s.id = $1', row.id))[0];
    }),
    implement(stopSendOut, async ({ params }) => {
      const row = await find(params.id);
      await SendOut.update(
        { state: 'stopped' },
        { where: { id: row.id, state: ['waiting', 'paused', 'running'] } },
      );
      return (await list('s.id = $1', row.id))[0];
    }),
    implement(clearSendOut, async ({ params }) => {
      const row = await find(params.id);
      if (row.state === 'waiting' || row.state === 'paused' || row.state === 'running') {
        throw new Problem(409, 'Stop it before clearing it.');
      }
      await row.destroy();
    }),
    implement(getOutputPart, async ({ params, body: { settings, ...part } }, _req, res) => {
      const take = await findTake(params.id);
      const photograph = await Photograph.findByPk(take.photographId);
      if (!photograph) throw notFound('photograph');
      const treatment = await currentTreatment(take);
      const png = await inTurn(() => partOfOutput(services, sourceOf(photograph), treatment, settings, part));
      res.type('image/png');
      res.end(png);
    }),
    implement(getSentFile, async ({ params }, req, res) => {
      const { resultSha256, resultSize, settings, fileName } = await find(params.id);
      if (!resultSha256)
        throw new Problem(409, 'This file is not finished.', 'Wait until it is, then take it.');
      const { mediaType } = formatNamed(settings.format);
      await giveBytes(req, res, sequelize, {
        sha256: resultSha256,
        size: Number(resultSize),
        mediaType,
        fileName,
      });
    }),
  ];
}
