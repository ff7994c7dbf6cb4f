import type { Response } from 'express';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { eachOnce } from '../../contract/file-name';

/** A file of a zip. */
export interface Zipped {
  name: string;
  made: Date;
  /** Called when its turn comes. */
  open: () => Readable;
}

/** Answers with files as one zip, read and written a piece at a time. Pictures are packed already: they are put in as they are. */
export async function giveZip(res: Response, fileName: string, files: readonly Zipped[]): Promise<void> {
  res.attachment(fileName).type('application/zip');
  const zip = new ZipFile();
  const names = eachOnce(files.map(file => file.name));
  files.forEach(({ open, made }, i) => {
    zip.addReadStreamLazy(names[i], { mtime: made, compress: false }, done => done(null, open()));
  });
  zip.on('error', error => res.destroy(error as Error));
  zip.end();
  // A reader that goes away in the middle is no fault.
  await pipeline(zip.outputStream, res).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  });
}
