import { open } from 'node:fs/promises';
import { bmp } from './bmp';
import { heic } from './heic';
import { jpegXl } from './jpeg-xl';
import { jpeg2000 } from './jpeg2000';
import { raw, rawPreview } from './raw';
import type { Reader } from './define';

/** All kinds of files that are read by codecs of their own; of a file that two could read, the better first. */
export const readers: readonly Reader[] = [bmp, heic, jpeg2000, jpegXl, raw, rawPreview];

/** Bytes by which kinds of files are known. */
const FIRST = 256;

/** The first bytes of a file, zeros where it is shorter. */
export async function firstBytes(path: string): Promise<Buffer> {
  const handle = await open(path, 'r');
  try {
    const first = Buffer.alloc(FIRST);
    await handle.read(first, 0, FIRST, 0);
    return first;
  } finally {
    await handle.close();
  }
}

/** The readers of a file's kind; none where the picture library reads it. */
export async function readersOf(first: Buffer, path: string): Promise<Reader[]> {
  const found: Reader[] = [];
  for (const reader of readers) if (await reader.is(first, path)) found.push(reader);
  return found;
}

/** The reader that took a picture in. */
export const readerOf = (mediaType: string): Reader | undefined =>
  readers.find(r => r.mediaType === mediaType);
