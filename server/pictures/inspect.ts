import { stat } from 'node:fs/promises';
import sharp, { type Metadata } from 'sharp';
import { MOST_PAGES, openOptions, PictureError, refuseTooLarge } from './bounds';
import { profileName } from './icc';
import { whyNotRead } from './not-pictures';
import { partTaken } from './part';
import { firstBytes, readersOf } from './readers';
import { directoriesOf, isPreview, pagesOf } from './tiff-directories';

/** What a file's own bytes say about the picture in it. */
export interface PictureFacts {
  mediaType: string;
  /** Which page of its file it is, from 0. */
  page: number;
  /** Pixels, upright: EXIF orientation applied. */
  width: number;
  height: number;
  /** Bits a channel that are kept: 16 where the file has more than 8. */
  bits: 8 | 16;
  /** The file has one channel (and perhaps alpha). */
  grey: boolean;
  /** The name inside the embedded profile, if there is one. */
  profile: string | null;
  /** What of the file it is, in words, where the file holds more. */
  part: string | null;
}

const mediaTypes: Record<string, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  tiff: 'image/tiff',
  webp: 'image/webp',
  gif: 'image/gif',
};

function mediaTypeOf(metadata: Metadata): string | undefined {
  if (metadata.format === 'heif') return metadata.compression === 'av1' ? 'image/avif' : undefined;
  return mediaTypes[metadata.format];
}

/** What a codec of its own says of a file; null where none is for its kind, and what is wrong where none can read it. */
async function byReader(first: Buffer, path: string): Promise<PictureFacts | string | null> {
  let wrong: string | null = null;
  for (const { name, mediaType, head } of await readersOf(first, path)) {
    try {
      const { width, height, bits, channels, icc, part } = await head(path);
      refuseTooLarge(width, height);
      const profile = icc && profileName(icc);
      return { mediaType, page: 0, width, height, bits, grey: channels <= 2, profile, part };
    } catch (error) {
      if (error instanceof PictureError) throw error;
      const why = (error as Error).message || 'its data is broken';
      wrong ??= `is a ${name} file that cannot be read: ${why}. Save it as a TIFF where it can be opened, and bring that in`;
    }
  }
  return wrong;
}

/** The pages of a file that are pictures of their own, by their place in it; the first one of files of all other kinds. */
export async function pagesIn(path: string): Promise<number[]> {
  const first = await firstBytes(path);
  if ((await readersOf(first, path)).length) return [0];
  const pages = pagesOf(await directoriesOf(path));
  if (pages.length > MOST_PAGES) {
    throw new PictureError(`has more than ${MOST_PAGES} pages: split it, and bring in its parts`);
  }
  return pages.length ? pages : [0];
}

/**
 * Reads a file's header.
 * @param page one of `pagesIn`
 * Throws a PictureError where it is not a picture of a kind that is taken in: its message says what it is, and the way out.
 */
export async function inspect(path: string, page?: number): Promise<PictureFacts> {
  const first = await firstBytes(path);
  const read = await byReader(first, path);
  if (read !== null && typeof read !== 'string') return read;
  const directories = await directoriesOf(path);
  // Of a raw file that no codec reads its small preview is better than nothing; the mosaic of its sensor is not.
  if (read !== null && !isPreview(directories.at(0))) throw new PictureError(read);
  const at = page ?? pagesOf(directories).at(0) ?? 0;
  let metadata: Metadata;
  try {
    metadata = await sharp(path, { ...openOptions, page: at }).metadata();
  } catch (error) {
    if (/pixel limit/i.test(String(error))) refuseTooLarge(Infinity, 1);
    throw new PictureError(read ?? whyNotRead(first, (await stat(path)).size));
  }
  const mediaType = mediaTypeOf(metadata);
  if (!mediaType) throw new PictureError(read ?? whyNotRead(first, (await stat(path)).size));
  const turned = (metadata.orientation ?? 1) >= 5;
  const width = turned ? metadata.height : metadata.width;
  const height = turned ? metadata.width : metadata.height;
  refuseTooLarge(width, height);
  if (!depths.has(metadata.depth)) {
    throw new PictureError(
      `has ${metadata.depth} samples; save it with 8, 16 or 32 bits a channel, and bring that in`,
    );
  }
  return {
    mediaType,
    page: at,
    width,
    height,
    bits: metadata.depth === 'uchar' ? 8 : 16,
    grey: metadata.channels <= 2,
    profile: metadata.icc ? profileName(metadata.icc) : null,
    part: await partTaken(path, at, metadata),
  };
}

/** How channels may be written. */
const depths = new Set(['uchar', 'ushort', 'uint', 'float', 'double']);
