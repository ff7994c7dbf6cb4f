import sharp, { type Metadata } from 'sharp';
import { LONGEST_EDGE } from '../../contract/limits';
import { MOST_PIXELS } from './limits';
import { profileName } from './icc';
import { partTaken } from './part';

/** What a file's own bytes say about the picture in it. */
export interface PictureFacts {
  mediaType: 'image/jpeg' | 'image/png' | 'image/tiff' | 'image/webp' | 'image/avif';
  /** Pixels, upright: EXIF orientation applied. */
  width: number;
  height: number;
  /** Bits a channel in the file. */
  bits: 8 | 16;
  /** The file has one channel (and perhaps alpha). */
  grey: boolean;
  /** The name inside the embedded profile, if there is one. */
  profile: string | null;
  /** What of the file it is, in words, where the file holds more. */
  part: string | null;
}

/** A file that is not a picture that can be taken in; the message says why, without the file's name. */
export class PictureError extends Error {}

const mediaTypes: Record<string, PictureFacts['mediaType']> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  tiff: 'image/tiff',
  webp: 'image/webp',
};

function mediaTypeOf(metadata: Metadata): PictureFacts['mediaType'] | undefined {
  if (metadata.format === 'heif') return metadata.compression === 'av1' ? 'image/avif' : undefined;
  return mediaTypes[metadata.format];
}

/** Options with which every original is opened. */
export const openOptions = { failOn: 'error', limitInputPixels: MOST_PIXELS, sequentialRead: true } as const;

/** Reads a file's header. Throws a PictureError where it is not a picture of a kind that is taken in. */
export async function inspect(path: string): Promise<PictureFacts> {
  let metadata: Metadata;
  try {
    metadata = await sharp(path, openOptions).metadata();
  } catch (error) {
    throw new PictureError(
      /pixel limit/i.test(String(error))
        ? `has more than ${MOST_PIXELS / 1e6} megapixels`
        : 'is not a picture that can be read (JPEG, PNG, TIFF, WebP or AVIF)',
    );
  }
  const mediaType = mediaTypeOf(metadata);
  if (!mediaType) throw new PictureError('is not a JPEG, PNG, TIFF, WebP or AVIF');
  const turned = (metadata.orientation ?? 1) >= 5;
  const width = turned ? metadata.height : metadata.width;
  const height = turned ? metadata.width : metadata.height;
  if (width * height > MOST_PIXELS) throw new PictureError(`has more than ${MOST_PIXELS / 1e6} megapixels`);
  if (Math.max(width, height) > LONGEST_EDGE) {
    throw new PictureError(`is longer than ${LONGEST_EDGE} pixels`);
  }
  if (!['uchar', 'ushort'].includes(metadata.depth)) {
    throw new PictureError(`has ${metadata.depth} samples; 8 and 16 bits are taken in`);
  }
  return {
    mediaType,
    width,
    height,
    bits: metadata.depth === 'ushort' ? 16 : 8,
    grey: metadata.channels <= 2,
    profile: metadata.icc ? profileName(metadata.icc) : null,
    part: await partTaken(path, metadata),
  };
}
