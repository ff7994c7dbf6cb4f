import { noise, roughness } from './noise';
import { surface, type Mesh } from './mesh';

/** Sawn wood: no board is straight, square or flat. */

export interface Board {
  /** Along x, up y, along z. */
  length: number;
  thickness: number;
  width: number;
  seed: number;
  /** How worn the edges are, in the units of the scene. */
  wear?: number;
  /** How far it is bent and cupped. */
  warp?: number;
}

/** A board along x, its middle at the origin: rounded and chipped edges, a little bent, cupped and twisted. */
export function board({
  length,
  thickness,
  width,
  seed,
  wear = thickness * 0.12,
  warp = thickness * 0.1,
}: Board): Mesh {
  const around = 40;
  const along = Math.min(160, Math.max(24, Math.round((length / width) * 8)));
  return surface(
    around,
    along,
    (u, v) => {
      const end = Math.min(v, 1 - v) * along;
      const shrink = end === 0 ? 0 : end === 1 ? 1 - wear / width : 1;
      const place = end === 0 ? v : end === 1 ? v + (v < 0.5 ? -1 : 1) * (1 / along) : v;
      const x = (place - 0.5) * length;
      const angle = u * 2 * Math.PI;
      // A rounded rectangle: a circle pushed out to the box, its corners held back by the wear.
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const reach = Math.max(Math.abs(c), Math.abs(s));
      const worn = wear * (1 + 0.9 * roughness(x / width / 0.6 + seed * 3, seed, u * 5));
      const corner = Math.min(Math.abs(c), Math.abs(s)) / reach;
      const held = 1 - (Math.max(0, corner - 0.8) / 0.2) * Math.min(1, worn / thickness);
      let z = (c / reach) * (width / 2) * held;
      let y = (s / reach) * (thickness / 2) * held;
      z += wear * 0.5 * noise(x / width / 1.7, seed * 5.1, s);
      y +=
        warp * noise(x / length / 0.6 + seed, seed * 1.7) +
        warp * 0.8 * noise(seed * 9.3) * ((2 * z) / width) ** 2;
      y += (warp * 0.8 * noise(seed * 4.1 + 0.4) * x * z) / (length * width);
      const lifted = warp * noise(x / length / 0.6 + seed, seed * 1.7);
      return [x, end === 0 ? lifted + (y - lifted) * shrink : y, z * shrink];
    },
    true,
  );
}
