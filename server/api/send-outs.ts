import { QueryTypes } from 'sequelize';
import {
  clearSendOut,
  getSentFile,
  listFormats,
  listSendOuts,
  retrySendOut,
  sendTakes,
  stopSendOut,
  type SendOut as SendOutView,
  type SendOutSettings,
} from '../../contract/send-outs';
import { currentTreatment } from '../data/history';
import { Photograph, SendOut, Take } from '../data/models';
import type { Queue } from '../jobs/queue';
import { formatNamed, formats, impossible } from '../pictures/formats';
import type { Services } from '../services';
import { giveBytes } from './bytes';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

/** A part of a file name: letters and digits of any script, joined by hyphens. */
const slug = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKC')
    .replace(/['’]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

/** `saltmarsh-ferry-05-quinces-b.jpg`: series, number, title, take. */
export function fileNameOf(
  series: string,
  number: number,
  title: string,
  letter: string,
  settings: SendOutSettings,
) {
  const parts = [slug(series), String(number).padStart(2, '0'), slug(title), letter.toLowerCase()];
  return `${parts.filter(Boolean).join('-')}.${formatNamed(settings.format).ending}`;
}

const LIST = `
  SELECT s.id, s.take_id AS "takeId", t.photograph_id AS "photographId", t.revision, p.title, t.letter,
    s.file_name AS "fileName", s.settings, s.state, s.progress, s.problem, s.result_size::float8 AS size
  FROM send_outs s JOIN takes t ON t.id = s.take_id JOIN photographs p ON p.id = t.photograph_id
  WHERE `;

export function sendOutRoutes({ sequelize }: Services, queue: Queue) {
  const list = (where: string, value: unknown) =>
    sequelize.query<SendOutView>(`${LIST} ${where} ORDER BY s.created_at, s.id`, {
      bind: [value],
      type: QueryTypes.SELECT,
    });
  const find = async (id: string) => {
    const row = await SendOut.findByPk(id);
    if (!row) throw notFound('file');
    return row;
  };
  return [
    implement(listFormats, async () =>
      formats.map(({ name, ending, mediaType, bits, profiles, quality }) => ({
        name,
        ending,
        mediaType,
        bits: [...bits],
        profiles: [...profiles],
        quality,
      })),
    ),
    implement(listSendOuts, ({ query }) => list('s.series_id = $1', query.series)),
    implement(sendTakes, async ({ body }) => {
      const why = impossible(body.settings);
      if (why) throw new Problem(400, 'No file can be like that.', why);
      const series = await findSeries(body.series);
      const photographs = await Photograph.findAll({
        where: { seriesId: series.id, deletedAt: null },
        order: ['place', 'createdAt', 'id'],
      });
      const numbers = new Map(photographs.map((p, i) => [p.id, { number: i + 1, title: p.title }]));
      const takes = await Take.findAll({ where: { id: body.takes, deletedAt: null } });
      const ordered = body.takes.map(id => takes.find(t => t.id === id));
      const rows = await Promise.all(
        ordered.map(async take => {
          const photograph = take && numbers.get(take.photographId);
          if (!photograph) throw notFound('take in this series');
          return {
            takeId: take.id,
            seriesId: series.id,
            treatment: await currentTreatment(take),
            settings: body.settings,
            fileName: fileNameOf(
              series.title,
              photograph.number,
              photograph.title,
              take.letter,
              body.settings,
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
    implement(retrySendOut, async ({ params }) => {
      const row = await find(params.id);
      if (row.state !== 'failed' && row.state !== 'stopped') {
        throw new Problem(409, 'Only what failed or was stopped can be tried again.');
      }
      await sequelize.transaction(async transaction => {
        await row.update({ state: 'waiting', progress: 0, problem: null }, { transaction });
        await queue.ask('send-out', [row.id], transaction);
      });
      queue.wake();
      return (await list('s.id = $1', row.id))[0];
    }),
    implement(stopSendOut, async ({ params }) => {
      const row = await find(params.id);
      await SendOut.update({ state: 'stopped' }, { where: { id: row.id, state: ['waiting', 'running'] } });
      return (await list('s.id = $1', row.id))[0];
    }),
    implement(clearSendOut, async ({ params }) => {
      const row = await find(params.id);
      if (row.state === 'waiting' || row.state === 'running') {
        throw new Problem(409, 'Stop it before clearing it.');
      }
      await row.destroy();
    }),
    implement(getSentFile, async ({ params }, req, res) => {
      const { resultSha256, resultSize, settings, fileName } = await find(params.id);
      if (!resultSha256) throw new Problem(409, 'This file is not finished.');
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
