import type { Response } from 'express';
import { pipeline } from 'node:stream/promises';
import type { Sequelize } from 'sequelize';
import { ZipFile } from 'yazl';
import { eachOnce } from '../../contract/file-name';
import { readBlob } from '../data/blobs';

/** A file of a zip, by its bytes' hash. */
export interface Zipped {
  name: string;
  sha256: string;
  made: Date;
}

/** Answers with files as one zip, read and written a piece at a time. Pictures are packed already: they are put in as they are. */
export async function giveZip(
  res: Response,
  sequelize: Sequelize,
  fileName: string,
  files: readonly Zipped[],
): Promise<void> {
  res.type('application/zip');
  res.attachment(fileName);
  const zip = new ZipFile();
  const names = eachOnce(files.map(file => file.name));
  files.forEach(({ sha256, made }, i) => {
    // Each is opened when its turn comes.
    zip.addReadStreamLazy(names[i], { mtime: made, compress: false }, done =>
      done(null, readBlob(sequelize, sha256)),
    );
  });
  zip.on('error', error => res.destroy(error as Error));
  zip.end();
  // A reader that goes away in the middle is no fault.
  await pipeline(zip.outputStream, res).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  });
}
