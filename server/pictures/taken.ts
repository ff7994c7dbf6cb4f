import readExif from 'exif-reader';
import sharp from 'sharp';
import { openOptions } from './inspect';

/**
 * When a picture was taken, as its camera's clock said (EXIF DateTimeOriginal, else DateTimeDigitized): `2026-05-03T14:22:01`.
 * Null where the file does not say, or says it so that it cannot be read.
 */
export async function takenAt(path: string): Promise<string | null> {
  try {
    const { exif } = await sharp(path, openOptions).metadata();
    if (!exif) return null;
    const { Photo } = readExif(exif);
    const date = Photo?.DateTimeOriginal ?? Photo?.DateTimeDigitized;
    // The reader takes the clock's hours for those of UTC; so they stay what they were.
    return date && !Number.isNaN(date.getTime()) ? date.toISOString().slice(0, 19) : null;
  } catch {
    return null;
  }
}
