import busboy from 'busboy';
import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { literal, type Transaction } from 'sequelize';
import { bringInPhotograph } from '../../contract/photographs';
import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { storeBlobFile } from '../data/blobs';
import { createTake } from '../data/history';
import { Photograph, Series } from '../data/models';
import { sourceOf } from '../data/source';
import { touchSeries } from '../data/touch';
import { cleanName } from '../pictures/clean-name';
import { cameraNotes } from '../pictures/camera-notes';
import { needRoom } from '../pictures/disk';
import { PictureError, refusePages } from '../pictures/bounds';
import { pagesIn, type PictureFacts } from '../pictures/inspect';
import { MOST_BYTES } from '../pictures/limits';
import type { PictureSource } from '../pictures/store';
import type { Services } from '../services';
import { listPhotographs } from './photographs';
import { Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

interface Received {
  path: string;
  name: string;
  sha256: string;
  size: number;
}

/** A first title from a file's name: `boat-shed_02.jpg` becomes `Boat shed 02`. */
export function titleFrom(name: string): string {
  const plain = basename(name, extname(name)).replace(/[-_]+/g, ' ').trim() || name;
  // A capital may be longer than its small letter.
  const title = plain.charAt(0).toUpperCase() + plain.slice(1);
  return title.slice(0, 200).replace(/[\uD800-\uDBFF]$/, '');
}

/** Streams the one file of a multipart request to disk, hashing it on the way. */
function receive(req: Request, folder: string): Promise<Received> {
  return new Promise((resolve, reject) => {
    let parser: busboy.Busboy;
    try {
      parser = busboy({
        headers: req.headers,
        limits: { files: 1, fields: 0, fileSize: MOST_BYTES },
        defParamCharset: 'utf8',
      });
    } catch {
      reject(new Problem(415, 'A photograph is sent as one file in a form.'));
      return;
    }
    let work: Promise<Received> | undefined;
    let second = false;
    parser.on('file', (_field, stream, { filename }) => {
      const path = join(folder, `${randomUUID()}.upload`);
      const hash = createHash('sha256');
      let size = 0;
      const measure = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          hash.update(chunk);
          size += chunk.length;
          done(null, chunk);
        },
      });
      const name = cleanName(filename ?? '');
      work = pipeline(stream, measure, createWriteStream(path)).then(() => {
        if (stream.truncated) throw new Problem(413, `${name} is larger than ${MOST_BYTES / 1024 ** 2} MB.`);
        return { path, name, sha256: hash.digest('hex'), size };
      });
      work.catch(async (error: unknown) => {
        // What cannot be kept is not waited for.
        req.unpipe(parser);
        await rm(path, { force: true }).catch(() => undefined);
        reject(error as Error);
      });
    });
    parser.on('filesLimit', () => (second = true));
    parser.on('close', () => {
      if (work && second) {
        const refused = new Problem(400, 'A form holds one photograph; there is a second file in it.');
        work.then(({ path }) => rm(path, { force: true })).then(() => reject(refused), reject);
      } else if (work) work.then(resolve, reject);
      else reject(new Problem(400, 'There is no file in the request.'));
    });
    parser.on('error', () => reject(new Problem(400, 'The file did not arrive whole.')));
    req.on('aborted', () => {
      parser.destroy();
      reject(new Problem(400, 'The file did not arrive whole.'));
    });
    req.pipe(parser);
  });
}

/**
 * Keeps a picture file as a photograph with one bare take, of a file with several pages each as one, all in one transaction.
 * Gives the id of the first.
 */
export async function keepPhotograph(
  { sequelize, pictures, log }: Services,
  seriesId: string,
  file: Received,
  title = titleFrom(file.name),
  treatments: { treatment: Treatment; name: string }[] = [{ treatment: bareTreatment(), name: '' }],
): Promise<string> {
  const known = await Photograph.findAll({ where: { sha256: file.sha256 }, order: ['page', 'createdAt'] });
  const knownPages = new Map(known.map(photograph => [photograph.page, photograph]));
  const facts: PictureFacts[] = [];
  for (const page of await pagesIn(file.path)) {
    const same = knownPages.get(page);
    facts.push(same ? sourceOf(same) : await pictures.inspect(file.path, page));
  }
  refusePages(facts);
  // What else the file tells is read when it is known to be a picture of bounds.
  const notes = known.find(photograph => photograph.takenRead) ?? (await cameraNotes(file.path));
  const { taken, camera, author } = notes;
  const pages: { source: PictureSource; damage: string | null }[] = [];
  for (const of of facts) {
    const same = knownPages.get(of.page);
    const source = { ...of, sha256: file.sha256 };
    pages.push({ source, damage: same ? same.damage : await pictures.admit(source, file.path) });
  }
  const id = await sequelize.transaction(async (transaction: Transaction) => {
    await storeBlobFile(transaction, file.sha256, file.size, file.path);
    // The series' row is locked, so that photographs arriving together get places of their own.
    await Series.findByPk(seriesId, { lock: transaction.LOCK.UPDATE, transaction });
    const last = (await Photograph.max('place', { where: { seriesId }, transaction })) as number | null;
    let first = '';
    for (const [i, { source, damage }] of pages.entries()) {
      const photograph = await Photograph.create(
        {
          ...source,
          damage,
          taken,
          camera,
          author,
          takenRead: true,
          seriesId,
          place: (last ?? 0) + 1 + i,
          title: pages.length > 1 ? `${title}, page ${i + 1}` : title,
          fileName: file.name,
        },
        { transaction },
      );
      for (const { treatment, name } of treatments) {
        const take = await createTake(photograph.id, treatment, name, transaction);
        photograph.currentTakeId = take.id;
      }
      await photograph.save({ transaction });
      first ||= photograph.id;
    }
    await touchSeries(seriesId, transaction);
    return first;
  });
  // What the Bench will ask for first; a failure only means that it is made later.
  const ahead = async () => {
    for (const { source } of pages) await pictures.warm(source);
  };
  ahead().catch((error: unknown) => log.warn({ err: error }, 'sizes not made ahead'));
  return id;
}

/** Refuses a file whose very bytes the series has already, or has put aside, and says as what. */
async function refuseDuplicate(seriesId: string, file: Received): Promise<void> {
  const same = await Photograph.findOne({
    where: { seriesId, sha256: file.sha256 },
    order: [literal('deleted_at IS NOT NULL'), 'place'],
  });
  if (!same) return;
  const { id, title, deletedAt } = same;
  const isAside = deletedAt !== null;
  throw new Problem(
    409,
    isAside
      ? `${file.name} was in this series and is put aside, as “${title}”.`
      : `${file.name} is in this series already, as “${title}”.`,
    undefined,
    { existing: { id, title, isAside } },
  );
}

export function importRoutes(services: Services) {
  const { sequelize, config } = services;
  return [
    implement(bringInPhotograph, async ({ params, query }, req) => {
      const series = await findSeries(params.id);
      const folder = join(config.cacheFolder, 'uploads');
      await mkdir(folder, { recursive: true });
      // As a file, in the database, and in its log.
      await needRoom(folder, 3 * Number(req.headers['content-length'] ?? 0));
      const file = await receive(req, folder);
      try {
        if (!query.again) await refuseDuplicate(series.id, file);
        const id = await keepPhotograph(services, series.id, file);
        return (await listPhotographs(sequelize, { id }))[0];
      } catch (error) {
        if (error instanceof PictureError) throw new Problem(422, `${file.name} ${error.message}.`);
        throw error;
      } finally {
        await rm(file.path, { force: true });
      }
    }),
  ];
}
