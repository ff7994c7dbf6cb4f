import type { Rectangle } from '../../core/frame/geometry';
import { createPlanner } from '../../core/engine/plan';
import { render8, withMargin } from '../../core/engine/render';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from './at-hand';
import { framedAt } from './levels';
import { coloursRead, keptPixels, surveysOf } from './pixels';
import type { PictureInfo } from './tiles';
import { place, printOf, type Size, type View } from './view';

/** Parts of the picture as other treatments would show them: the bands of a test strip. */

/** Plans of their own: those of the large picture stay kept. */
const planner = createPlanner();

/** A part of the wall, and the treatment that is to be seen there. */
export interface BandRequest {
  picture: PictureInfo;
  treatment: Treatment;
  /** How the picture hangs; device pixels. */
  view: View;
  viewport: Size;
  margin: number;
  /** Of the viewport, in whole device pixels. */
  part: Rectangle;
}

export interface Band {
  /** What of the picture lies there, at the size at which it is rendered. */
  image: ImageBitmap;
  /** Where that lies in the viewport; it may reach a little beyond the part. */
  at: Rectangle;
}

/** The pixels of a band; null where nothing of the picture lies there. */
export async function band({
  picture,
  treatment,
  view,
  viewport,
  margin,
  part,
}: BandRequest): Promise<Band | null> {
  await atHand(treatment);
  const { frame } = treatment;
  const hung = place(printOf(picture, frame), viewport, view, margin);
  const of = framedAt(picture, frame, Math.max(16, Math.round(hung.longEdge)));
  const { geometry } = of;
  const [across, down] = [hung.width / geometry.width, hung.height / geometry.height];
  const x = Math.max(0, Math.floor((part.x - hung.x) / across));
  const y = Math.max(0, Math.floor((part.y - hung.y) / down));
  const here = {
    x,
    y,
    width: Math.min(geometry.width, Math.ceil((part.x + part.width - hung.x) / across)) - x,
    height: Math.min(geometry.height, Math.ceil((part.y + part.height - hung.y) / down)) - y,
  };
  if (here.width <= 0 || here.height <= 0) return null;
  const { grey } = picture;
  const bare = planner(treatment, { grey, pixels: 0 });
  const tile = await keptPixels(of, withMargin(bare, here, geometry));
  const occupied = grey ? undefined : await coloursRead(bare, of, treatment, [tile], of);
  const plan = planner(treatment, { grey, pixels: here.width * here.height, occupied });
  const surveys = await surveysOf(plan, of, treatment);
  const image = new ImageData(here.width, here.height);
  render8(plan, tile, image.data, 4, { grey, geometry, surveys, part: here });
  const left = Math.round(hung.x + here.x * across);
  const top = Math.round(hung.y + here.y * down);
  return {
    image: await createImageBitmap(image),
    at: {
      x: left,
      y: top,
      width: Math.round(hung.x + (here.x + here.width) * across) - left,
      height: Math.round(hung.y + (here.y + here.height) * down) - top,
    },
  };
}
