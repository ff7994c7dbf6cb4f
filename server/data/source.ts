import type { PictureSource } from '../pictures/store';
import type { Photograph } from './models';

/** The facts of a photograph's picture, as the picture store wants them. */
export function sourceOf(photograph: Photograph): PictureSource {
  const { sha256, page, width, height, bits, grey, profile, part, mediaType } = photograph;
  return {
    sha256,
    page,
    width,
    height,
    bits,
    grey,
    profile,
    part,
    mediaType,
  };
}
