import { asPhotographed } from '../../core/frame/crop';
import { framedSize } from '../../core/frame/geometry';
import { render8, withMargin } from '../../core/engine/render';
import { writeGreyPng } from '../../core/formats/grey-png';
import { showingArea } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from './at-hand';
import { framedAt } from './levels';
import { pixelsOf, planner, surveysOf } from './pixels';
import { LARGEST_AREA, TILE } from '../../contract/limits';
import type { PictureInfo } from './tiles';

/** Parts of a picture at its full size. */

/** A part of the picture at 1:1 about a place (fractions of the framed picture), as codes. */
export async function naturalPart(
  picture: PictureInfo,
  treatment: Treatment,
  x: number,
  y: number,
  width: number,
  height: number,
): Promise<ImageData> {
  await atHand(treatment);
  const size = framedSize(picture, treatment.frame);
  const of = framedAt(picture, treatment.frame, Math.max(size.width, size.height));
  const { geometry } = of;
  const from = (place: number, room: number, length: number) =>
    Math.round(Math.min(Math.max(0, place * length - room / 2), Math.max(0, length - room)));
  const part = {
    x: from(x, width, geometry.width),
    y: from(y, height, geometry.height),
    width: Math.min(width, geometry.width),
    height: Math.min(height, geometry.height),
  };
  const { grey } = picture;
  const plan = planner(treatment, { grey, pixels: part.width * part.height });
  const [surveys, tile] = await Promise.all([
    surveysOf(plan, of, treatment),
    pixelsOf(of, withMargin(plan, part, geometry)),
  ]);
  const image = new ImageData(part.width, part.height);
  render8(plan, tile, image.data, 4, { grey, geometry, surveys, part });
  return image;
}

/** The same as a picture to be drawn. */
export const loupe = async (...of: Parameters<typeof naturalPart>): Promise<ImageBitmap> =>
  createImageBitmap(await naturalPart(...of));

/**
 * An area of a treatment alone, over the whole photograph without its frame, as a grey PNG of 8 bits: white where it
 * covers, at the photograph's size up to a long edge of 4096.
 */
export async function areaPng(picture: PictureInfo, treatment: Treatment, area: string): Promise<Uint8Array> {
  await atHand(treatment);
  const shown = showingArea({ ...treatment, frame: asPhotographed }, area, 'grey', '#ffffff');
  const of = framedAt(picture, shown.frame, Math.min(LARGEST_AREA, Math.max(picture.width, picture.height)));
  const { width, height } = of.geometry;
  const { grey } = picture;
  const plan = planner(shown, { grey, pixels: width * height });
  const surveys = await surveysOf(plan, of, shown);
  const values = new Uint8Array(width * height);
  for (let y = 0; y < height; y += TILE) {
    for (let x = 0; x < width; x += TILE) {
      const part = { x, y, width: Math.min(TILE, width - x), height: Math.min(TILE, height - y) };
      const tile = await pixelsOf(of, withMargin(plan, part, of.geometry));
      const image = new ImageData(part.width, part.height);
      render8(plan, tile, image.data, 4, { grey, geometry: of.geometry, surveys, part });
      for (let row = 0; row < part.height; row++) {
        const from = row * part.width;
        const to = (y + row) * width + x;
        for (let i = 0; i < part.width; i++) values[to + i] = image.data[(from + i) * 4];
      }
    }
  }
  return writeGreyPng(values, width, height);
}
