import { COLOUR, lumaOf, put, wholeOf } from './colours';

/** Light taken away by weights; see `core/kernels/shade.ts`. */

/** Entries of the gains, and of the light of encoded values up to 1. */
const GAINS: f32 = 1024;
const LIGHTS: f32 = 4096;
const TOE: f32 = 0.04045;
const TOE_SLOPE: f32 = 12.92;
const OFFSET: f32 = 0.055;

function between(table: usize, at: f32): f32 {
  const entry = wholeOf(at);
  const low = table + ((<usize>entry) << 2);
  const a = load<f32>(low);
  return a + (load<f32>(low + 4) - a) * (at - <f32>entry);
}

/** One encoded value that its gain may bring from the power part of the curve into the toe. */
function dimmed(v: f32, gain: f32, along: f32, lights: usize): f32 {
  if (v <= TOE) return v * gain;
  if (along > TOE) return along;
  const linear = v >= 1 ? Mathf.pow((v + OFFSET) / (<f32>1 + OFFSET), 2.4) : between(lights, v * LIGHTS);
  return linear * gain * TOE_SLOPE;
}

/**
 * Darkens encoded colours in linear light, in place.
 * @param gains of light, by weight
 * @param slopes the gains to the 1/2.4: along the power part of the curve a gain is a straight line
 * @param lights linear light of encoded values
 */
export function dim(
  rgb: usize,
  weights: usize,
  count: i32,
  gains: usize,
  slopes: usize,
  lights: usize,
  spare: f32,
): void {
  const toe = f32x4.splat(TOE);
  for (let i = 0, p = rgb, w = weights; i < count; i++, p += COLOUR, w += 4) {
    let weight = load<f32>(w);
    if (weight === 0) continue;
    const v = v128.load(p);
    if (spare > 0) {
      const h = min(max((lumaOf(v) - <f32>0.5) * 2, <f32>0), <f32>1);
      weight *= <f32>1 - spare * h * h * (<f32>3 - <f32>2 * h);
    }
    const gain = between(gains, weight * GAINS);
    const slope = between(slopes, weight * GAINS);
    const along = f32x4.add(f32x4.mul(v, f32x4.splat(slope)), f32x4.splat(OFFSET * slope - OFFSET));
    const inToe = f32x4.le(v, toe);
    const crosses = v128.andnot(f32x4.le(along, toe), inToe);
    if (v128.any_true(v128.and(crosses, i32x4(-1, -1, -1, 0)))) {
      store<f32>(p, dimmed(f32x4.extract_lane(v, 0), gain, f32x4.extract_lane(along, 0), lights));
      store<f32>(p + 4, dimmed(f32x4.extract_lane(v, 1), gain, f32x4.extract_lane(along, 1), lights));
      store<f32>(p + 8, dimmed(f32x4.extract_lane(v, 2), gain, f32x4.extract_lane(along, 2), lights));
    } else put(p, v128.bitselect(f32x4.mul(v, f32x4.splat(gain)), along, inToe));
  }
}
