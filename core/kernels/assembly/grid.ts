import { COLOUR, put } from './colours';

/** Tables over colours read by tetrahedral interpolation; see `core/kernels/grid.ts`. */

const BITS = 15;
const ONE = 1 << BITS;
const SHARE = ONE - 1;

/**
 * One number a node, or a colour; returns whether any pixel got no number. In whole numbers and without a branch: which tetrahedron a pixel is in cannot be
 * foreseen.
 * @param place where each code falls between the nodes
 * @param walks bytes from the first node to the second, and to the third, for each of eight orders of the shares
 */
function readAll<T>(
  channels: i32,
  values: usize,
  size: i32,
  place: usize,
  walks: usize,
  codes: usize,
  count: i32,
  out: usize,
): bool {
  const stepG = size * channels;
  const stepR = size * stepG;
  const all = (<usize>(stepR + stepG + channels)) << 2;
  const unit = <f32>1 / <f32>ONE;
  const code = sizeof<T>();
  // A sum of nothings is nothing, unless one is no number.
  let nothing: f32 = 0;
  for (let i = 0, p = codes, o = out; i < count; i++, p += 3 * code) {
    const x = load<i32>(place + ((<usize>load<T>(p)) << 2));
    const y = load<i32>(place + ((<usize>load<T>(p + code)) << 2));
    const z = load<i32>(place + ((<usize>load<T>(p + 2 * code)) << 2));
    const fx = x & SHARE;
    const fy = y & SHARE;
    const fz = z & SHARE;
    const node = (x >> BITS) * stepR + (y >> BITS) * stepG + (z >> BITS) * channels;
    const xy = fx - fy;
    const yz = fy - fz;
    const xz = fx - fz;
    const order = (<usize>((xy >>> 31) | ((yz >>> 31) << 1) | ((xz >>> 31) << 2))) << 2;
    // The largest and the smallest of the three, by their signs.
    const less = xy & (xy >> 31);
    const most = fx - less;
    const least = fy + less;
    const byZ = most - fz;
    const high = most - (byZ & (byZ >> 31));
    const toZ = fz - least;
    const low = least + (toZ & (toZ >> 31));
    const mid = fx + fy + fz - high - low;
    const a = values + ((<usize>node) << 2);
    const b = a + load<i32>(walks + order);
    const c = a + load<i32>(walks + 32 + order);
    const d = a + all;
    const w0 = <f32>(ONE - high) * unit;
    const w1 = <f32>(high - mid) * unit;
    const w2 = <f32>(mid - low) * unit;
    const w3 = <f32>low * unit;
    if (channels === 1) {
      const grey = w0 * load<f32>(a) + w1 * load<f32>(b) + w2 * load<f32>(c) + w3 * load<f32>(d);
      nothing += grey * 0;
      store<f32>(o, grey);
      o += 4;
    } else {
      const first = f32x4.add(
        f32x4.mul(v128.load(a), f32x4.splat(w0)),
        f32x4.mul(v128.load(b), f32x4.splat(w1)),
      );
      const second = f32x4.add(
        f32x4.mul(v128.load(c), f32x4.splat(w2)),
        f32x4.mul(v128.load(d), f32x4.splat(w3)),
      );
      const colour = f32x4.add(first, second);
      nothing += f32x4.extract_lane(colour, 0) * 0;
      put(o, colour);
      o += COLOUR;
    }
  }
  return nothing !== nothing;
}

export function readGreys16(
  values: usize,
  size: i32,
  place: usize,
  walks: usize,
  codes: usize,
  count: i32,
  out: usize,
): bool {
  return readAll<u16>(1, values, size, place, walks, codes, count, out);
}

export function readGreys8(
  values: usize,
  size: i32,
  place: usize,
  walks: usize,
  codes: usize,
  count: i32,
  out: usize,
): bool {
  return readAll<u8>(1, values, size, place, walks, codes, count, out);
}

export function readColours16(
  values: usize,
  size: i32,
  place: usize,
  walks: usize,
  codes: usize,
  count: i32,
  out: usize,
): bool {
  return readAll<u16>(3, values, size, place, walks, codes, count, out);
}

export function readColours8(
  values: usize,
  size: i32,
  place: usize,
  walks: usize,
  codes: usize,
  count: i32,
  out: usize,
): bool {
  return readAll<u8>(3, values, size, place, walks, codes, count, out);
}
