/** Repeatable randomness for the scenes: a seeded generator and smooth gradient noise. */

/** Numbers from 0 to 1, always the same for a seed (mulberry32, public domain). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

const order = new Uint8Array(512);
{
  const next = randomFrom(20);
  const shuffled = Array.from({ length: 256 }, (_, index) => index);
  for (let index = 255; index > 0; index--) {
    const other = Math.floor(next() * (index + 1));
    [shuffled[index], shuffled[other]] = [shuffled[other]!, shuffled[index]!];
  }
  for (let index = 0; index < 512; index++) order[index] = shuffled[index & 255]!;
}

const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);
const mix = (a: number, b: number, t: number) => a + (b - a) * t;

function slope(hash: number, x: number, y: number, z: number): number {
  const low = hash & 15;
  const u = low < 8 ? x : y;
  const v = low < 4 ? y : low === 12 || low === 14 ? x : z;
  return (low & 1 ? -u : u) + (low & 2 ? -v : v);
}

/** Gradient noise in space, about -1 to 1, smooth, without a visible period. (K. Perlin, 2002.) */
export function noise(x: number, y = 0, z = 0): number {
  const [fx, fy, fz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [X, Y, Z] = [fx & 255, fy & 255, fz & 255];
  const [dx, dy, dz] = [x - fx, y - fy, z - fz];
  const [u, v, w] = [fade(dx), fade(dy), fade(dz)];
  const A = order[X]! + Y;
  const B = order[X + 1]! + Y;
  const corner = (base: number, up: number, ox: number, oy: number, oz: number) =>
    slope(order[(order[base + up]! + Z + oz) & 511]!, dx - ox, dy - oy, dz - oz);
  const near = mix(
    mix(corner(A, 0, 0, 0, 0), corner(B, 0, 1, 0, 0), u),
    mix(corner(A, 1, 0, 1, 0), corner(B, 1, 1, 1, 0), u),
    v,
  );
  const far = mix(
    mix(corner(A, 0, 0, 0, 1), corner(B, 0, 1, 0, 1), u),
    mix(corner(A, 1, 0, 1, 1), corner(B, 1, 1, 1, 1), u),
    v,
  );
  return mix(near, far, w);
}

/** Noise over several octaves, each half as strong and twice as fine. */
export function roughness(x: number, y = 0, z = 0, octaves = 4): number {
  let sum = 0;
  for (let octave = 0, size = 1, share = 1; octave < octaves; octave++, size *= 2.03, share *= 0.5) {
    sum += share * noise(x * size + octave * 7.3, y * size, z * size);
  }
  return sum;
}
