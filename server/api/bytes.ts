import type { Request, Response } from 'express';
import parseRange from 'range-parser';
import type { Sequelize } from 'sequelize';
import { pipeline } from 'node:stream/promises';
import { Transform } from 'node:stream';
import { readBlob } from '../data/blobs';

/** Bytes kept under their hash, given out so that a reader knows how many come and can go on where it broke off. */

export interface Given {
  sha256: string;
  size: number;
  mediaType: string;
  fileName: string;
}

/** A stream that ends after some bytes. */
function upTo(most: number): Transform {
  let left = most;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const part = chunk.subarray(0, left);
      left -= part.length;
      done(null, part);
    },
  });
}

/** Answers with bytes, or the one range of them that is asked for (RFC 9110, section 14). */
export async function giveBytes(
  req: Request,
  res: Response,
  sequelize: Sequelize,
  { sha256, size, mediaType, fileName }: Given,
): Promise<void> {
  const tag = `"${sha256}"`;
  // The type last: a name has one of its own.
  res.attachment(fileName);
  res.type(mediaType);
  res.set({ 'Accept-Ranges': 'bytes', ETag: tag, 'Cache-Control': 'private, no-cache' });
  if (req.headers['if-none-match'] === tag) {
    res.status(304).end();
    return;
  }
  const isSame = req.headers['if-range'] === undefined || req.headers['if-range'] === tag;
  const ranges = isSame && req.headers.range ? parseRange(size, req.headers.range) : null;
  if (ranges === -1) {
    res.status(416).set('Content-Range', `bytes */${size}`).end();
    return;
  }
  let [start, end] = [0, size - 1];
  // Several at once, or what is no range, are answered by all of it.
  if (Array.isArray(ranges) && ranges.length === 1 && ranges.type === 'bytes') {
    [{ start, end }] = ranges;
    res.status(206).set('Content-Range', `bytes ${start}-${end}/${size}`);
  }
  const length = end - start + 1;
  res.set('Content-Length', String(length));
  if (req.method === 'HEAD') {
    res.end();
    return;
  }
  // A reader that goes away in the middle is no fault.
  await pipeline(readBlob(sequelize, sha256, start), upTo(length), res).catch(
    (error: NodeJS.ErrnoException) => {
      if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    },
  );
}
