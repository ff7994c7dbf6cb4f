import { boxMean } from '../../core/kernels/planes';
import { randomFrom } from './noise';
import type { LinearPicture } from './hdr';

/** The photographic finish: what lens, negative and printer do to the light of a scene. */
export interface Development {
  /** Size of the finished picture in pixels; without a height it follows the width. */
  width: number;
  height?: number;
  /** Stops. */
  exposure?: number;
  /** Factors of red, green and blue. */
  balance?: [number, number, number];
  /** 1 is the film's own. */
  contrast?: number;
  saturation?: number;
  /** Share of light that the glass spreads, near and far. */
  bloom?: [number, number];
  /** Loss of light in the corners. */
  falloff?: number;
  /** Standard deviation of the grain, of 1. */
  grain?: number;
  /** Softness of the lens, pixels of the finished picture. */
  softness?: number;
  seed?: number;
}

/** The picture without a share at its foot, and as much of both sides as keeps its shape. */
export function withoutFoot({ width, height, light }: LinearPicture, share: number): LinearPicture {
  const [w, h] = [Math.round(width * (1 - share)), Math.round(height * (1 - share))];
  const left = Math.round((width - w) / 2);
  const cut = new Float32Array(w * h * 3);
  for (let y = 0; y < h; y++) {
    cut.set(light.subarray((y * width + left) * 3, (y * width + left + w) * 3), y * w * 3);
  }
  return { width: w, height: h, light: cut };
}

const plane = (light: Float32Array, channel: number) => light.filter((_, index) => index % 3 === channel);

/** Softened by about a Gaussian of this standard deviation: three box means (P. Kovesi, 2010). */
function blurred(light: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const radius = Math.max(1, Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2));
  // A box wider than the softness asks for is mixed in by its share of the variance.
  const share = Math.min(1, (sigma * sigma) / (radius * (radius + 1)));
  const out = new Float32Array(light.length);
  for (let channel = 0; channel < 3; channel++) {
    let values = plane(light, channel);
    for (let round = 0; round < 3; round++) {
      const mean = boxMean({ width, height, values }, radius).values;
      values = values.map((value, index) => value + (mean[index]! - value) * share);
    }
    for (let index = 0; index < values.length; index++) out[index * 3 + channel] = values[index]!;
  }
  return out;
}

const cubic = (t: number) => {
  const x = Math.abs(t);
  return x < 1 ? 1.5 * x ** 3 - 2.5 * x * x + 1 : x < 2 ? -0.5 * x ** 3 + 2.5 * x * x - 4 * x + 2 : 0;
};

/** Enlarged by cubic interpolation; red and blue a little larger and smaller, as a lens leaves them. */
function enlarged(from: LinearPicture, width: number, height: number, exposure: number): Float32Array {
  const out = new Float32Array(width * height * 3);
  for (let channel = 0; channel < 3; channel++) {
    const lens = 1 + (channel - 1) * 0.0005;
    const taps = (count: number, available: number) =>
      Array.from({ length: count }, (_, index) => {
        const place = (((index + 0.5) / count - 0.5) * lens + 0.5) * available - 0.5;
        const first = Math.floor(place) - 1;
        return [0, 1, 2, 3].map(k => ({
          at: Math.min(Math.max(first + k, 0), available - 1),
          share: cubic(place - first - k),
        }));
      });
    const across = taps(width, from.width);
    const rows = new Float32Array(width * from.height);
    for (let y = 0; y < from.height; y++) {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (const { at, share } of across[x]!) {
          // A lamp is held, so that one bright pixel does not spread over the whole picture.
          sum += share * Math.min(from.light[(y * from.width + at) * 3 + channel]! * 2 ** exposure, 24);
        }
        rows[y * width + x] = sum;
      }
    }
    taps(height, from.height).forEach((down, y) => {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (const { at, share } of down) sum += share * rows[at * width + x]!;
        out[(y * width + x) * 3 + channel] = Math.max(0, sum);
      }
    });
  }
  return out;
}

/** Shoulder and toe of a negative printed on paper (J. Hable's curve, "Filmic Tonemapping", 2010), white at 6. */
function film(light: number): number {
  const curve = (x: number) => (x * (0.15 * x + 0.05) + 0.004) / (x * (0.15 * x + 0.5) + 0.06) - 0.004 / 0.06;
  return Math.max(0, curve(light * 2.2) / curve(6.5));
}

/** The picture as 16-bit codes in sRGB, red, green, blue. */
export function develop(
  picture: LinearPicture,
  {
    width,
    height = Math.round((width * picture.height) / picture.width),
    exposure = 0,
    balance = [1, 1, 1],
    contrast = 1,
    saturation = 1,
    bloom = [0.05, 0.03],
    falloff = 0.25,
    grain = 0.012,
    softness = 0.8,
    seed = 1,
  }: Development,
): { codes: Uint16Array; width: number; height: number } {
  const sharpest = enlarged(picture, width, height, exposure);
  const light = softness > 0.3 ? blurred(sharpest, width, height, softness) : sharpest;
  const near = blurred(light, width, height, width / 260);
  const far = blurred(light, width, height, width / 34);

  const next = randomFrom(seed);
  const gauss = () => Math.sqrt(-2 * Math.log(next() + 1e-9)) * Math.cos(2 * Math.PI * next());
  const specks = new Float32Array(width * height * 3);
  for (let index = 0; index < width * height; index++) {
    const shared = gauss();
    for (let channel = 0; channel < 3; channel++) specks[index * 3 + channel] = shared * 0.9 + gauss() * 0.45;
  }
  const clumped = blurred(specks, width, height, 0.85);

  const codes = new Uint16Array(width * height * 3);
  const [cx, cy, corner] = [width / 2, height / 2, Math.hypot(width, height) / 2];
  const rgb = [0, 0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      const lit = 1 - falloff * (Math.hypot(x - cx, y - cy) / corner) ** 2.4;
      let grey = 0;
      for (let channel = 0; channel < 3; channel++) {
        // Red light goes through the emulsion and comes back: a faint halo in red alone.
        const halo = channel === 0 ? 0.012 : 0;
        const value =
          light[at + channel]! * (1 - bloom[0] - bloom[1] - halo) +
          near[at + channel]! * (bloom[0] + halo) +
          far[at + channel]! * bloom[1];
        rgb[channel] = film(Math.max(0, value) * lit * balance[channel]!);
        grey += rgb[channel]! * [0.2126, 0.7152, 0.0722][channel]!;
      }
      for (let channel = 0; channel < 3; channel++) {
        const coloured = Math.max(0, grey + (rgb[channel]! - grey) * saturation);
        const display = coloured <= 0.0031308 ? coloured * 12.92 : 1.055 * coloured ** (1 / 2.4) - 0.055;
        const bent = Math.min(Math.max(0.5 + (display - 0.5) * contrast, 0), 1);
        const toothed = display + (bent * bent * (3 - 2 * bent) - bent) * 0.35 + (bent - display);
        const strength = grain * (0.45 + 1.5 * Math.sqrt(Math.max(0, toothed * (1 - toothed))));
        const value = toothed + clumped[at + channel]! * strength * 2.2;
        codes[at + channel] = Math.round(Math.min(Math.max(value, 0), 1) * 65535);
      }
    }
  }
  return { codes, width, height };
}
