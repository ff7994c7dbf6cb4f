import { encode } from '../core/colour/srgb';
import { pureHue } from '../core/colour/hues';

/** Two small pictures made by code, in 8-bit RGB: useful for judging every step on every hue and tone. */
export interface Chart {
  width: number;
  height: number;
  codes: Uint8Array;
}

type Colour = readonly [number, number, number];
const hex = (text: string): Colour => {
  const n = parseInt(text, 16);
  return [(n >> 16) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255];
};
const blend = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

function paint(width: number, height: number, at: (x: number, y: number) => Colour): Chart {
  const codes = new Uint8Array(width * height * 3);
  for (let y = 0, o = 0; y < height; y++) {
    for (let x = 0; x < width; x++, o += 3) {
      const c = at(x + 0.5, y + 0.5);
      for (let k = 0; k < 3; k++) codes[o + k] = Math.round(Math.min(1, Math.max(0, c[k])) * 255);
    }
  }
  return { width, height, codes };
}

const PATCHES = [
  ['f3d5c0', 'd9a586', 'a8694a', '5b3524'],
  ['6c8f3e', 'a5b96a', '3f5c33', '24392b'],
  ['a9cbe8', '6f9cc9', '3d659b', 'dfe9ee'],
  ['b5382c', 'e2b23c', '5d4a86', '2e8a86'],
].map(row => row.map(hex));

/** A hue circle (saturation outwards), patches of skin, foliage, sky and cloth, and a grey scale. */
export function colourChart(): Chart {
  const ground: Colour = [0.36, 0.36, 0.36];
  return paint(1200, 800, (x, y) => {
    const dx = x - 330;
    const dy = y - 300;
    const radius = Math.hypot(dx, dy) / 260;
    if (radius <= 1) {
      const hue = (Math.atan2(-dy, dx) * 180) / Math.PI;
      const pure = pureHue(hue) as Colour;
      const level = 0.25 + 0.5 * (0.5 - 0.5 * Math.cos(radius * Math.PI));
      return blend([0.72, 0.72, 0.72], blend(pure, [level, level, level], 0.12), radius);
    }
    const column = Math.floor((x - 650) / 130);
    const row = Math.floor((y - 40) / 130);
    if (column >= 0 && column < 4 && row >= 0 && row < 4) {
      const inside = (x - 650) % 130 < 116 && (y - 40) % 130 < 116;
      if (inside) return PATCHES[row][column];
    }
    if (y >= 620 && y < 760 && x >= 40 && x < 1160) {
      const v = Math.floor(((x - 40) / 1120) * 11) / 10;
      return [v, v, v];
    }
    return ground;
  });
}

/** Smooth tone scales, fine lines at falling contrast, and a star of ever finer detail. */
export function toneChart(): Chart {
  return paint(1200, 800, (x, y) => {
    const across = x / 1200;
    if (y < 180) return [across, across, across];
    if (y < 300) {
      const v = encode(across * across * 0.9);
      return [v, v, v];
    }
    const dx = x - 930;
    const dy = y - 550;
    const radius = Math.hypot(dx, dy);
    if (radius < 220) {
      const v = 0.5 + 0.45 * Math.sin(Math.atan2(dy, dx) * 48) * Math.min(1, radius / 60);
      return [v, v, v];
    }
    if (x < 660) {
      const band = Math.floor((y - 300) / 100);
      const contrast = 0.42 / 2 ** band;
      const v = 0.5 + contrast * Math.sin(((x * x) / 660 / 660) * 400);
      return [v, v, v];
    }
    const v = 0.62 + 0.3 * Math.exp(-(((x - 760) / 90) ** 2) - ((y - 420) / 70) ** 2);
    return [v, v, v];
  });
}
