import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request, Response } from 'express';
import { ARCHIVE_TYPE, getBackup, getBackups, getPackage, takeInArchive } from '../../contract/archives';
import { slug } from '../../contract/file-name';
import { ArchiveError } from '../archive/format';
import { takeIn } from '../archive/take-in';
import { archiveOf } from '../archive/write';
import { needRoom } from '../pictures/disk';
import type { Services } from '../services';
import { Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

/** An archive is taken in within so long, in minutes, or not at all. */
const MOST_MINUTES = 60;

/** For so long, in milliseconds, a reader of an archive may take nothing of it. */
const SLEEPS_MS = 60_000;

/** What comes of a request, to be given up without giving up the request: whoever sends it hears why. */
function comingFrom(req: Request, res: Response): { bytes: PassThrough; gone: AbortController } {
  const bytes = new PassThrough();
  const gone = new AbortController();
  req.once('close', () => {
    if (!req.complete) bytes.destroy(new Problem(400, 'The archive did not arrive whole.'));
  });
  // Nobody is there to hear that it has come in.
  res.once('close', () => gone.abort(new Problem(400, 'Who sent the archive has gone.')));
  req.pipe(bytes);
  return { bytes, gone };
}

const TOO_LATE = new Problem(
  422,
  `The archive could not be imported within ${MOST_MINUTES} minutes.`,
  'Import it on the server: npm run restore -- FILE.tar',
);

/** The day, as it stands in a file's name. */
const today = () => new Date().toISOString().slice(0, 10);

export function archiveRoutes(services: Services) {
  const { sequelize, config, backups } = services;
  const give = async (res: Response, seriesId: string | null, name: string) => {
    // The type last: a name has one of its own.
    res.attachment(name).type(ARCHIVE_TYPE);
    // How much there is at least, so that whoever reads it can tell how far it is.
    const archive = archiveOf(sequelize, seriesId, ({ bytes }) => res.set('X-Lampwash-Bytes', String(bytes)));
    // It is of one moment, which the database holds for it: not for a reader that sleeps.
    res.setTimeout(SLEEPS_MS, () => res.destroy());
    // One that goes wrong ends without its sums; a reader that goes away in the middle is no fault.
    await pipeline(archive, res).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ERR_STREAM_PREMATURE_CLOSE') return;
      if (!res.headersSent) throw error;
      services.log.error({ err: error }, 'an archive was broken off');
      res.destroy();
    });
  };
  return [
    implement(getBackup, (_input, _req, res) => give(res, null, `lampwash-shelf-${today()}.tar`)),
    implement(getPackage, async ({ params }, _req, res) => {
      const { id, title } = await findSeries(params.id);
      await give(res, id, `${slug(title) || 'series'}.series.tar`);
    }),
    implement(getBackups, async () => {
      if (!backups) return null;
      const { last, ...told } = await backups.told();
      return { ...told, last: last?.toISOString() ?? null };
    }),
    implement(takeInArchive, async (_input, req, res) => {
      await needRoom(config.cacheFolder, 2 * Number(req.headers['content-length'] ?? 0));
      const { bytes, gone } = comingFrom(req, res);
      const late = setTimeout(() => gone.abort(TOO_LATE), MOST_MINUTES * 60_000);
      try {
        return await takeIn(services, bytes, gone.signal);
      } catch (error) {
        if (error instanceof ArchiveError) {
          const { message, aside } = error;
          throw new Problem(422, message, undefined, aside.length ? { aside } : {});
        }
        throw error;
      } finally {
        clearTimeout(late);
      }
    }),
  ];
}
