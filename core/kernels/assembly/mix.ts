import { COLOUR, put } from './colours';

/** The mix `color` of one colour; see `core/kernels/colour-mix.ts`. */

const R: f32 = 0.3;
const G: f32 = 0.59;
const B: f32 = 0.11;

function lum(c: v128): f32 {
  const w = f32x4.mul(c, f32x4(R, G, B, 0));
  return f32x4.extract_lane(w, 0) + f32x4.extract_lane(w, 1) + f32x4.extract_lane(w, 2);
}

/** Lays one colour on colours by weights and a strength, in place: its hue and saturation on the lum of what is beneath. */
export function mixColour(
  rgb: usize,
  weights: usize,
  count: i32,
  red: f32,
  green: f32,
  blue: f32,
  strength: f32,
): void {
  const own = f32x4(red, green, blue, 0);
  const ownLum = lum(own);
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  for (let i = 0, p = rgb, w = weights; i < count; i++, p += COLOUR, w += 4) {
    const weight = strength * load<f32>(w);
    if (weight === 0) continue;
    const beneath = v128.load(p);
    const moved = f32x4.add(own, f32x4.splat(lum(f32x4.min(f32x4.max(beneath, none), one)) - ownLum));
    const level = lum(moved);
    const r = f32x4.extract_lane(moved, 0);
    const g = f32x4.extract_lane(moved, 1);
    const b = f32x4.extract_lane(moved, 2);
    const least = min(min(r, g), b);
    const most = max(max(r, g), b);
    let share: f32 = 1;
    if (least < 0) share = level / (level - least);
    if (most > 1) share *= (<f32>1 - level) / (most - level);
    const middle = f32x4.splat(level);
    const mixed = f32x4.add(middle, f32x4.mul(f32x4.sub(moved, middle), f32x4.splat(share)));
    put(p, f32x4.add(beneath, f32x4.mul(f32x4.splat(weight), f32x4.sub(mixed, beneath))));
  }
}
