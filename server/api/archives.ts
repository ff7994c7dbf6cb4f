import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { ARCHIVE_TYPE, getBackup, getPackage, takeInArchive } from '../../contract/archives';
import { slug } from '../../contract/file-name';
import { ArchiveError } from '../archive/format';
import { takeIn } from '../archive/take-in';
import { archiveOf } from '../archive/write';
import { forgetStates } from '../data/history';
import { needRoom } from '../pictures/disk';
import type { Services } from '../services';
import { Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

/** The day, as it stands in a file's name. */
const today = () => new Date().toISOString().slice(0, 10);

export function archiveRoutes(services: Services) {
  const { sequelize, config } = services;
  const give = async (res: Response, seriesId: string | null, name: string) => {
    res.type(ARCHIVE_TYPE).attachment(name);
    // How much there is at least, so that whoever reads it can tell how far it is.
    const archive = archiveOf(sequelize, seriesId, ({ bytes }) => res.set('X-Lampwash-Bytes', String(bytes)));
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
    implement(takeInArchive, async (_input, req) => {
      await needRoom(config.cacheFolder, 2 * Number(req.headers['content-length'] ?? 0));
      try {
        return await takeIn(services, req);
      } catch (error) {
        // What was read while it was taken in is not there.
        forgetStates();
        // What is not wanted any more is let go by, so that the answer is heard.
        req.resume();
        if (error instanceof ArchiveError) throw new Problem(422, error.message);
        if (req.destroyed && !req.complete) throw new Problem(400, 'The archive did not arrive whole.');
        throw error;
      }
    }),
  ];
}
