import { COLOUR, lumaOf, put } from './colours';

/** Adds grain to encoded colours, in place: strongest in the midtones, none at black and white. */
export function addGrain(rgb: usize, grains: usize, count: i32, depth: f32): void {
  for (let i = 0, p = rgb, g = grains; i < count; i++, p += COLOUR, g += 4) {
    const v = v128.load(p);
    const tone = lumaOf(v);
    const room = max(<f32>4 * tone * (<f32>1 - tone), <f32>0);
    put(p, f32x4.add(v, f32x4.splat(depth * load<f32>(g) * sqrt<f32>(room))));
  }
}
