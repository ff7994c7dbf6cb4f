import type { Bonds } from './harmonic';

/** Cells with what tells things apart, and how much neighbours have in common by it. */
export interface Features {
  width: number;
  height: number;
  /**
   * Three planes: of a photograph in colour OKLab, its hues made larger; of a grey one the tone, the tone around, and how much it varies
   * there. Calmed, so that grain and weave are no edges.
   */
  features: [Float32Array, Float32Array, Float32Array];
  /** The step to the next cell that counts as an edge, squared; larger where all is rough. */
  rough: Float32Array;
}

/** What neighbours over an edge still have in common. */
const OVER_EDGE = 8e-5;

/** How much neighbours have in common. */
export function bondsIn({ width, height, features, rough }: Features): Bonds {
  const [f, g, h] = features;
  const right = new Float32Array(width * height);
  const down = new Float32Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      if (x < width - 1) {
        const u = f[i] - f[i + 1];
        const v = g[i] - g[i + 1];
        const w = h[i] - h[i + 1];
        const step = u * u + v * v + w * w;
        right[i] = Math.exp(-step / (rough[i] + rough[i + 1])) + OVER_EDGE;
      }
      if (y < height - 1) {
        const j = i + width;
        const u = f[i] - f[j];
        const v = g[i] - g[j];
        const w = h[i] - h[j];
        const step = u * u + v * v + w * w;
        down[i] = Math.exp(-step / (rough[i] + rough[j])) + OVER_EDGE;
      }
    }
  }
  return { width, height, right, down };
}
