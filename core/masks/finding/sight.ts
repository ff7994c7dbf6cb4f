import { linearToOklab } from '../../colour/oklab';
import { toLinear } from '../../colour/transfer';
import type { Rectangle } from '../../frame/geometry';
import { guided } from '../../kernels/guided';
import type { Codes } from '../../kernels/grid';
import type { Features } from '../../kernels/features';
import { boxMean, halvePlane, type Plane } from '../../kernels/planes';
import { Memory } from './memory';

/**
 * A photograph as areas look at it, to find things in it: as it came, before any step and any frame, so that what was found stays
 * whatever is done to the light and however the picture is cropped. At one size always, so that it is the same at every zoom.
 */

export interface Sight extends Features {
  /** The picture that the cells are made of, twice as large where it is large. */
  picture: { width: number; height: number; codes: Codes; grey: boolean };
  /** How far its tones are stretched. */
  gain: number;
  /** What has been found in it. */
  memory: Memory;
}

/** The long edge of the picture that is looked at, before it is halved. */
export const SIGHT_EDGE = 1024;

/** Hues count this much more than tones. */
const HUES = 2.5;
/** The window and the variance below which neighbours are calmed. */
const CALM_RADIUS = 2;
const CALM_VARIANCE = 0.0003;
/** The window over which a grey picture's tone is looked at around a cell, and roughness in any. */
const AROUND = 3;
const ROUGH_AROUND = 10;
/** How much what a grey picture's tones vary counts. */
const VARYING = 1.5;
/** A step so small is never an edge. */
const LEAST_STEP = 0.006;
/** Most tones of a faded print lie closer together: they are stretched, at most so far. */
const MOST_STRETCH = 3;
const USUAL_RANGE = 0.75;

/** Linear light of encoded values in even steps: fine enough to tell things apart. */
const LIGHT_STEPS = 4095;
let light: Float32Array | undefined;
const lightOf = () =>
  (light ??= Float32Array.from({ length: LIGHT_STEPS + 1 }, (_, i) => toLinear(i / LIGHT_STEPS)));

const calmed = (plane: Plane): Plane => {
  const { a, b } = guided(plane, plane, CALM_RADIUS, CALM_VARIANCE);
  const { values } = plane;
  for (let i = 0; i < values.length; i++) values[i] = values[i] * a.values[i] + b.values[i];
  return plane;
};

/** How far most tones lie apart. */
function rangeOf(values: Float32Array): number {
  const counts = new Uint32Array(256);
  for (const v of values) counts[Math.min(255, Math.max(0, Math.round(v * 255)))]++;
  const at = (share: number) => {
    let sum = 0;
    for (let k = 0; k < 256; k++) if ((sum += counts[k]) >= share * values.length) return k / 255;
    return 1;
  };
  return at(0.98) - at(0.02);
}

/** One channel of a part of a picture, encoded 0..1. */
function channelOf({ codes, width }: Sight['picture'], part: Rectangle, channel: number): Plane {
  const most = codes instanceof Uint8Array ? 255 : 65535;
  const values = new Float32Array(part.width * part.height);
  for (let y = 0, i = 0; y < part.height; y++) {
    let p = ((part.y + y) * width + part.x) * 3 + channel;
    for (let x = 0; x < part.width; x++, i++, p += 3) values[i] = codes[p] / most;
  }
  return { width: part.width, height: part.height, values };
}

/** OKLab of encoded channels, one or three; of one its tones alone. */
function labOf(channels: readonly Plane[]): Plane[] {
  const [{ width, height }] = channels;
  const count = width * height;
  const grey = channels.length === 1;
  const lab = (grey ? [0] : [0, 1, 2]).map(() => ({ width, height, values: new Float32Array(count) }));
  const c = new Float64Array(3);
  const linear = lightOf();
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < 3; k++) c[k] = linear[(channels[grey ? 0 : k].values[i] * LIGHT_STEPS + 0.5) | 0];
    linearToOklab(c);
    for (let k = 0; k < lab.length; k++) lab[k].values[i] = c[k];
  }
  return lab;
}

/** Not as a power, which takes a hundred times as long. */
const squared = (v: number): number => v * v;

/** Cells with what tells them apart, from OKLab. */
function gridOf(lab: readonly Plane[], gain: number): Features {
  const [tone, ...hues] = lab;
  const { width, height } = tone;
  const count = width * height;
  for (let i = 0; i < count; i++) tone.values[i] *= gain;
  let planes: Plane[];
  if (hues.length) {
    for (const { values } of hues) for (let i = 0; i < count; i++) values[i] *= HUES;
    planes = lab.map(calmed);
  } else {
    const around = boxMean(tone, AROUND);
    const varying = boxMean({ ...tone, values: tone.values.map(v => v * v) }, AROUND);
    for (let i = 0; i < count; i++) {
      const mean = around.values[i];
      const variance = varying.values[i] - mean * mean;
      varying.values[i] = VARYING * Math.sqrt(Math.max(0, variance));
    }
    planes = [calmed(tone), around, boxMean(varying, 1)];
  }
  const [f, g, h] = planes.map(p => p.values);
  const steps = new Float32Array(count);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const r = x < width - 1 ? i + 1 : i;
      const d = y < height - 1 ? i + width : i;
      let sum = squared(f[r] - f[i]) + squared(f[d] - f[i]);
      if (hues.length) {
        sum += squared(g[r] - g[i]) + squared(h[r] - h[i]) + squared(g[d] - g[i]) + squared(h[d] - h[i]);
      }
      steps[i] = LEAST_STEP * LEAST_STEP + sum / 2;
    }
  }
  return {
    width,
    height,
    features: [f, g, h],
    rough: boxMean({ width, height, values: steps }, ROUGH_AROUND).values,
  };
}

const channelsOf = (picture: Sight['picture'], part: Rectangle) =>
  (picture.grey ? [1] : [0, 1, 2]).map(k => channelOf(picture, part, k));

/**
 * @param codes RGB of the whole photograph, its long edge `SIGHT_EDGE` or all that it has
 * @param grey its three channels are one
 */
export function sightOf(codes: Codes, width: number, height: number, grey: boolean): Sight {
  const picture = { width, height, codes, grey };
  const isLarge = Math.max(width, height) > SIGHT_EDGE / 2;
  const channels = channelsOf(picture, { x: 0, y: 0, width, height }).map(p => (isLarge ? halvePlane(p) : p));
  const lab = labOf(channels);
  const gain = Math.min(MOST_STRETCH, Math.max(1, USUAL_RANGE / Math.max(rangeOf(lab[0].values), 0.01)));
  return { ...gridOf(lab, gain), picture, gain, memory: new Memory() };
}

/** A part of a photograph's picture as cells of its own pixels, for what is found near a stroke. */
export const closer = ({ picture, gain }: Sight, part: Rectangle): Features =>
  gridOf(labOf(channelsOf(picture, part)), gain);
