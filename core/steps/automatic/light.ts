import { decode, luma } from '../../colour/srgb';
import type { Codes } from '../../kernels/grid';
import type { Finding } from '../define';
import { sampleOf } from './sample';

/** What `light` is set to by itself; what is not named stays at rest. */
export interface AutoLight {
  exposure: number;
  whites: number;
  blacks: number;
  highlights: number;
  shadows: number;
}

const SAMPLES = 8000;
/** The encoded tone that the middle of a picture is brought towards, half of the way. */
const MIDDLE = 0.44;
const MOST_EXPOSURE = 1.25;
const MOST = 0.6;

const bounded = (v: number, most: number) => Math.round(Math.min(most, Math.max(-most, v)) * 100) / 100 || 0;

/**
 * A first setting of `light` from the picture's tones: exposure half of the way to a middle tone, black and
 * white points near the ends of what is there, shadows opened and highlights held where many pixels lie at an
 * end. Bounded, and at rest for a picture that is right.
 */
export function autoLight(codes: Codes): AutoLight {
  const rgb = sampleOf(codes, SAMPLES);
  const tones = new Float64Array(rgb.length / 3);
  for (let i = 0; i < tones.length; i++) tones[i] = luma(rgb[i * 3], rgb[i * 3 + 1], rgb[i * 3 + 2]);
  tones.sort();
  const at = (share: number) => tones[Math.min(tones.length - 1, Math.floor(share * tones.length))];
  const middle = Math.min(0.95, Math.max(0.02, at(0.5)));
  let exposure = 0.5 * Math.log2(decode(MIDDLE) / decode(middle));
  if (Math.abs(middle - MIDDLE) < 0.06) exposure = 0;
  exposure = bounded(exposure, MOST_EXPOSURE);
  // Never so much that what is light now is lost.
  const room = Math.log2(1 / Math.max(0.05, decode(at(0.98))));
  if (exposure > 0) exposure = bounded(Math.min(exposure, Math.max(0, room)), MOST_EXPOSURE);
  const gain = 2 ** exposure;
  const lifted = (tone: number) => tone * gain ** (1 / 2.2);
  const low = lifted(at(0.004));
  const high = lifted(at(0.996));
  const share = (test: (tone: number) => boolean) => tones.filter(t => test(lifted(t))).length / tones.length;
  return {
    exposure,
    // Scales of the ends: blacks 1 lifts by 0.15, whites 1 lowers white by 0.25.
    blacks: low > 0.03 ? bounded(-(low - 0.015) / 0.15, MOST) : 0,
    whites: high < 0.94 ? bounded((0.97 - high) / 0.25, MOST) : 0,
    highlights: bounded(-Math.max(0, share(t => t > 0.93) - 0.04) * 4, MOST),
    shadows: bounded(Math.max(0, share(t => t < 0.12) - 0.15) * 1.2, MOST),
  };
}

/** The same with what is said of it: the settings that were moved. */
export function foundLight(codes: Codes): { settings: AutoLight; said: Finding } {
  const settings = autoLight(codes);
  return { settings, said: { what: 'moved', settings: Object.entries(settings).filter(([, v]) => v !== 0) } };
}
