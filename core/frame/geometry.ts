import type { Frame } from './frame';

/** The size of the photograph and of what is rendered of it, in pixels at the size of the rendering. */
export interface Scale {
  /** The long edge of the whole, uncropped photograph: what lengths are fractions of. */
  longEdge: number;
  /** The picture after its frame. */
  width: number;
  height: number;
  /** The photograph before its frame. */
  photograph: { width: number; height: number };
  /** Places in the photograph follow from pixels by straight lines: nothing is made upright. */
  straight: boolean;
}

/**
 * Where the pixels of a framed picture lie in the photograph. The frame turns by quarters, mirrors, puts
 * converging lines upright (a homography), straightens about the middle, and crops; lengths in pixels at the
 * size of the rendering.
 */
export interface Geometry extends Scale {
  /** Every pixel is a pixel of the photograph: nothing is resampled. */
  exact: boolean;
  /** The frame is the whole photograph as it is. */
  untouched: boolean;
  /** Photograph pixels of a point (pixels of the framed picture), into out[0], out[1]. */
  toPhotograph: (x: number, y: number, out: Float64Array) => void;
  /** Framed pixels of a point of the photograph (pixels), into out[0], out[1]; NaN where it has none. */
  toFramed: (x: number, y: number, out: Float64Array) => void;
  /** Photograph fractions of a point, as regions give them to steps. */
  placeOf: (x: number, y: number, out: Float64Array) => void;
}

export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Size {
  width: number;
  height: number;
}

/** The size of a photograph whose long edge is `longEdge` (never enlarged), as server and browser round it. */
export function sizeAt(photograph: Size, longEdge: number): Size {
  const scale = Math.min(1, longEdge / Math.max(photograph.width, photograph.height));
  return {
    width: Math.max(1, Math.round(photograph.width * scale)),
    height: Math.max(1, Math.round(photograph.height * scale)),
  };
}

/** How much nearer the far edge comes at keystone 1: the divisor at an edge is 1 ∓ this. */
const KEYSTONE = 0.4;

const isOdd = (turns: number) => turns % 2 === 1;

/** The size of the photograph after its quarter turns. */
const turnedSize = ({ width, height }: Size, { quarterTurns }: Frame): Size =>
  isOdd(quarterTurns) ? { width: height, height: width } : { width, height };

/** Whether a frame resamples nothing. */
export const isExact = (frame: Frame): boolean =>
  frame.angle === 0 && frame.keystone.vertical === 0 && frame.keystone.horizontal === 0;

/** The cropped rectangle in pixels of the turned photograph; at least one pixel. */
function cropOf(turned: Size, { crop }: Frame): Rectangle {
  const x = Math.min(turned.width - 1, Math.round(crop.x * turned.width));
  const y = Math.min(turned.height - 1, Math.round(crop.y * turned.height));
  const right = Math.round((crop.x + crop.width) * turned.width);
  const bottom = Math.round((crop.y + crop.height) * turned.height);
  return {
    x,
    y,
    width: Math.max(1, Math.min(turned.width, right) - x),
    height: Math.max(1, Math.min(turned.height, bottom) - y),
  };
}

/** The size of a photograph (pixels, at any size) after its frame. */
export function framedSize(photograph: Size, frame: Frame): Size {
  const { width, height } = cropOf(turnedSize(photograph, frame), frame);
  return { width, height };
}

/** A crop's sides fall on whole pixels, so its long edge may miss by one; sizes this near may meet it. */
const NEARBY = [0, 1, -1, 2, -2, 3, -3];

/**
 * The long edge at which the photograph is needed so that its framed picture has a long edge; never more
 * than the photograph has.
 */
export function photographEdge(photograph: Size, frame: Frame, framedEdge: number): number {
  const full = Math.max(photograph.width, photograph.height);
  const edgeAt = (edge: number) => {
    const { width, height } = framedSize(sizeAt(photograph, edge), frame);
    return Math.max(width, height);
  };
  const most = edgeAt(full);
  if (most <= framedEdge) return full;
  const about = Math.max(1, Math.round((full * framedEdge) / most));
  const exact = NEARBY.map(by => about + by).find(
    edge => edge >= 1 && edge <= full && edgeAt(edge) === framedEdge,
  );
  return exact ?? Math.min(full, about);
}

/** The size of a framed picture whose long edge is asked to be `framedEdge`, as it is rendered. */
export function framedSizeAt(photograph: Size, frame: Frame, framedEdge: number): Size {
  return framedSize(sizeAt(photograph, photographEdge(photograph, frame, framedEdge)), frame);
}

/** The geometry of a frame on a photograph of a size. */
export function geometryOf(photograph: Size, frame: Frame): Geometry {
  const turned = turnedSize(photograph, frame);
  const crop = cropOf(turned, frame);
  const { quarterTurns, mirror } = frame;
  const exact = isExact(frame);
  const halfWidth = turned.width / 2;
  const halfHeight = turned.height / 2;
  const radians = (frame.angle * Math.PI) / 180;
  const cos = Math.cos(radians);
  const sin = Math.sin(radians);
  const across = KEYSTONE * frame.keystone.horizontal;
  const along = KEYSTONE * frame.keystone.vertical;

  const toPhotograph = (x: number, y: number, out: Float64Array) => {
    let px = x + crop.x;
    let py = y + crop.y;
    if (!exact) {
      const dx = px - halfWidth;
      const dy = py - halfHeight;
      const rx = (cos * dx + sin * dy) / halfWidth;
      const ry = (cos * dy - sin * dx) / halfHeight;
      const divisor = 1 - across * rx - along * ry;
      px = halfWidth + (rx / divisor) * halfWidth;
      py = halfHeight + (ry / divisor) * halfHeight;
    }
    if (mirror) px = turned.width - px;
    // Back through the clockwise quarter turns.
    switch (quarterTurns) {
      case 1:
        out[0] = py;
        out[1] = turned.width - px;
        break;
      case 2:
        out[0] = turned.width - px;
        out[1] = turned.height - py;
        break;
      case 3:
        out[0] = turned.height - py;
        out[1] = px;
        break;
      default:
        out[0] = px;
        out[1] = py;
    }
  };

  const toFramed = (x: number, y: number, out: Float64Array) => {
    let px: number;
    let py: number;
    switch (quarterTurns) {
      case 1:
        px = turned.width - y;
        py = x;
        break;
      case 2:
        px = turned.width - x;
        py = turned.height - y;
        break;
      case 3:
        px = y;
        py = turned.height - x;
        break;
      default:
        px = x;
        py = y;
    }
    if (mirror) px = turned.width - px;
    if (!exact) {
      const nx = (px - halfWidth) / halfWidth;
      const ny = (py - halfHeight) / halfHeight;
      const divisor = 1 + across * nx + along * ny;
      const kx = divisor > 0 ? (nx / divisor) * halfWidth : NaN;
      const ky = divisor > 0 ? (ny / divisor) * halfHeight : NaN;
      px = halfWidth + cos * kx - sin * ky;
      py = halfHeight + sin * kx + cos * ky;
    }
    out[0] = px - crop.x;
    out[1] = py - crop.y;
  };

  const whole = crop.width === photograph.width && crop.height === photograph.height;
  return {
    longEdge: Math.max(photograph.width, photograph.height),
    width: crop.width,
    height: crop.height,
    photograph,
    straight: across === 0 && along === 0,
    exact,
    untouched: exact && whole && quarterTurns === 0 && !mirror,
    toPhotograph,
    toFramed,
    placeOf: (x, y, out) => {
      toPhotograph(x, y, out);
      out[0] /= photograph.width;
      out[1] /= photograph.height;
    },
  };
}

/** How many photograph pixels beyond a resampled pixel are looked at. */
const RESAMPLING = 3;

/**
 * The rectangle of the photograph (pixels, inside it) that a rectangle of the framed picture is made from;
 * empty where it lies outside.
 */
export function sourceOf(geometry: Geometry, part: Rectangle): Rectangle {
  const { photograph, toPhotograph, exact } = geometry;
  const out = new Float64Array(2);
  let left = Infinity;
  let top = Infinity;
  let right = -Infinity;
  let bottom = -Infinity;
  for (const x of [part.x, part.x + part.width]) {
    for (const y of [part.y, part.y + part.height]) {
      toPhotograph(x, y, out);
      left = Math.min(left, out[0]);
      right = Math.max(right, out[0]);
      top = Math.min(top, out[1]);
      bottom = Math.max(bottom, out[1]);
    }
  }
  const more = exact ? 0 : RESAMPLING;
  const x = Math.min(photograph.width, Math.max(0, Math.floor(left + 1e-6) - more));
  const y = Math.min(photograph.height, Math.max(0, Math.floor(top + 1e-6) - more));
  return {
    x,
    y,
    width: Math.max(0, Math.min(photograph.width, Math.ceil(right - 1e-6) + more) - x),
    height: Math.max(0, Math.min(photograph.height, Math.ceil(bottom - 1e-6) + more) - y),
  };
}
