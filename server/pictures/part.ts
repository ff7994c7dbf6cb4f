import type { Metadata } from 'sharp';
import { firstBytes } from './readers';
import { directoriesOf, isPreview, isRawTiff, pagesOf } from './tiff-directories';

/**
 * What of a file is taken, where that is not all of it, in words; null where it is.
 * @param page of the file, from 0
 */
export async function partTaken(
  path: string,
  page: number,
  { format, pages = 1 }: Metadata,
): Promise<string | null> {
  if (format === 'tiff') {
    const directories = await directoriesOf(path);
    if (isRawTiff(directories, await firstBytes(path))) {
      return 'the small preview in a camera’s raw file; the raw picture itself is not read';
    }
    if (isPreview(directories[page])) return 'a small preview, the first picture in its file';
    const own = pagesOf(directories);
    if (own.length > 1)
      return `page ${own.indexOf(page) + 1} of ${own.length} in its file, each of them a photograph`;
    // The large kind of TIFF is read as it comes.
    return !directories.length && pages > 1 ? `the first of ${pages} pages in its file` : null;
  }
  return pages > 1 ? `the first of ${pages} pictures in its file` : null;
}
