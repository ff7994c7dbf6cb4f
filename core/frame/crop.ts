import type { Frame } from './frame';
import { geometryOf, isExact } from './geometry';

/** Crops that show no empty corner. A crop is in fractions of the turned picture. */

export type Crop = Frame['crop'];
interface Size {
  width: number;
  height: number;
}

export const wholeCrop: Crop = { x: 0, y: 0, width: 1, height: 1 };

/** The frame of a photograph as it is. */
export const asPhotographed: Frame = {
  quarterTurns: 0,
  mirror: false,
  angle: 0,
  keystone: { vertical: 0, horizontal: 0 },
  crop: wholeCrop,
};

/** A corner may lie this far (pixels) outside of the photograph and still show nothing empty. */
const SLACK = 0.01;

/** The size of the turned picture, of which crops are fractions. */
export const turnedBy = ({ width, height }: Size, { quarterTurns }: Frame): Size =>
  quarterTurns % 2 ? { width: height, height: width } : { width, height };

/** Tells whether crops of a frame's turned picture hold nothing but photograph. */
export function cropsOf(photograph: Size, frame: Frame): (crop: Crop) => boolean {
  const { width, height, toPhotograph } = geometryOf(photograph, { ...frame, crop: wholeCrop });
  const out = new Float64Array(2);
  const inside = (x: number, y: number) => {
    toPhotograph(x * width, y * height, out);
    return (
      out[0] >= -SLACK &&
      out[1] >= -SLACK &&
      out[0] <= photograph.width + SLACK &&
      out[1] <= photograph.height + SLACK
    );
  };
  // What a homography does to a rectangle stays convex, so the corners speak for it.
  return ({ x, y, width: w, height: h }) =>
    inside(x, y) && inside(x + w, y) && inside(x, y + h) && inside(x + w, y + h);
}

/** The largest share of the way from one crop to another, at both ends of which `holds` is asked. */
function furthest(from: Crop, to: Crop, holds: (crop: Crop) => boolean): Crop {
  const between = (t: number): Crop => ({
    x: from.x + (to.x - from.x) * t,
    y: from.y + (to.y - from.y) * t,
    width: from.width + (to.width - from.width) * t,
    height: from.height + (to.height - from.height) * t,
  });
  if (holds(to)) return to;
  let low = 0;
  let high = 1;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (holds(between(middle))) low = middle;
    else high = middle;
  }
  return between(low);
}

/** A crop moved towards another as far as the picture reaches. */
export function cropTowards(photograph: Size, frame: Frame, to: Crop): Crop {
  const holds = cropsOf(photograph, frame);
  return holds(frame.crop) ? furthest(frame.crop, to, holds) : to;
}

const small = ({ x, y, width, height }: Crop): Crop => ({
  x: x + width * 0.49,
  y: y + height * 0.49,
  width: width * 0.02,
  height: height * 0.02,
});

/** The frame with the largest crop of the picture's own ratio, about the middle, that shows no empty corner. */
export function fullCrop(photograph: Size, frame: Frame): Frame {
  if (isExact(frame)) return frame;
  const holds = cropsOf(photograph, frame);
  return { ...frame, crop: furthest(small(wholeCrop), wholeCrop, holds) };
}

/** The frame with its crop drawn in about the crop's own middle until it shows no empty corner. */
export function withinPhotograph(photograph: Size, frame: Frame): Frame {
  const holds = cropsOf(photograph, frame);
  if (holds(frame.crop)) return frame;
  const least = small(frame.crop);
  return holds(least) ? { ...frame, crop: furthest(least, frame.crop, holds) } : fullCrop(photograph, frame);
}

/** The largest crop of a ratio (width to height in pixels) in the middle of a frame's present one. */
export function cropOfRatio(photograph: Size, frame: Frame, ratio: number): Crop {
  const turned = turnedBy(photograph, frame);
  const full = fullCrop(photograph, { ...frame, crop: wholeCrop }).crop;
  const wide = Math.min(full.width * turned.width, full.height * turned.height * ratio);
  const [width, height] = [wide / turned.width, wide / ratio / turned.height];
  const middle = { x: frame.crop.x + frame.crop.width / 2, y: frame.crop.y + frame.crop.height / 2 };
  const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
  return {
    x: clamp(middle.x - width / 2, full.x, full.x + full.width - width),
    y: clamp(middle.y - height / 2, full.y, full.y + full.height - height),
    width,
    height,
  };
}
