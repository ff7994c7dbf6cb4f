import { LONGEST_EDGE } from '../../contract/limits';
import { MOST_PIXELS } from './limits';
import './loaders';

/** What a picture file may take, held against what its head says before anything of it is decoded. */

/** A file that is not a picture that can be taken in; the message says why, without the file's name. */
export class PictureError extends Error {}

/** Options with which every original is opened. */
export const openOptions = { failOn: 'error', limitInputPixels: MOST_PIXELS, sequentialRead: true } as const;

/** Throws a PictureError where a picture has more pixels than are taken in. */
export function refuseTooLarge(width: number, height: number): void {
  if (width * height > MOST_PIXELS) {
    throw new PictureError(`has more than ${MOST_PIXELS / 1e6} megapixels: bring in a smaller one`);
  }
  if (Math.max(width, height) > LONGEST_EDGE) {
    throw new PictureError(`is longer than ${LONGEST_EDGE} pixels: bring in a smaller one, or its halves`);
  }
}

/** Pages of one file that become photographs at most, and what they have together, in pixels. */
export const MOST_PAGES = 300;
const MOST_PIXELS_OF_PAGES = 1500e6;

/** Refuses a file whose pages together are more than any scan: many may be made of one strip. */
export function refusePages(pages: readonly { width: number; height: number }[]): void {
  const pixels = pages.reduce((sum, { width, height }) => sum + width * height, 0);
  if (pixels > MOST_PIXELS_OF_PAGES) {
    throw new PictureError(
      `has ${pages.length} pages of ${Math.round(pixels / 1e6)} megapixels together, and up to ${MOST_PIXELS_OF_PAGES / 1e6} are taken: split it, and bring in its parts`,
    );
  }
}
