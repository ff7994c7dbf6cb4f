import { rgbToLab } from '../colour/lab';

/** How colour goes from dark to light in a picture: what a toned print is judged by. */

export interface ToneBin {
  /** The share of the pixels that have this tone, 0..1. */
  share: number;
  /** Mean colour in CIELAB: the direction of its hue in degrees, 0..360; null where it has none. */
  hue: number | null;
  /** Chroma of the mean colour: colours that part from one another cancel. */
  chroma: number;
  /** The mean colour, encoded sRGB 0..1. */
  colour: [number, number, number];
}

/** With less chroma than this a tone is called grey (CIELAB). */
const LEAST_CHROMA = 1;

/**
 * Colours by tone: L* in even steps from black to white.
 * @param codes 8-bit RGB or RGBA
 * @param stride numbers a pixel
 */
export function toneDrift(codes: ArrayLike<number>, stride: 3 | 4, bins: number): ToneBin[] {
  const sums = Array.from({ length: bins }, () => ({ n: 0, a: 0, b: 0, rgb: [0, 0, 0] }));
  let all = 0;
  for (let i = 0; i + 2 < codes.length; i += stride) {
    const [red, green, blue] = [codes[i] / 255, codes[i + 1] / 255, codes[i + 2] / 255];
    const [L, a, b] = rgbToLab(red, green, blue);
    const bin = sums[Math.min(bins - 1, Math.max(0, Math.floor((L / 100) * bins)))];
    bin.n++;
    bin.a += a;
    bin.b += b;
    bin.rgb[0] += red;
    bin.rgb[1] += green;
    bin.rgb[2] += blue;
    all++;
  }
  return sums.map(({ n, a, b, rgb }) => {
    if (n === 0) return { share: 0, hue: null, chroma: 0, colour: [0, 0, 0] };
    const [x, y] = [a / n, b / n];
    const chroma = Math.hypot(x, y);
    const turn = (Math.atan2(y, x) * 180) / Math.PI;
    return {
      share: n / all,
      hue: chroma < LEAST_CHROMA ? null : (turn + 360) % 360,
      chroma,
      colour: [rgb[0] / n, rgb[1] / n, rgb[2] / n],
    };
  });
}

/** Hues in a row without a leap over 0°: each within half a turn of the one before it. */
export function unwound(hues: readonly (number | null)[]): (number | null)[] {
  let before: number | null = null;
  return hues.map(hue => {
    if (hue === null) return null;
    const near: number = before === null ? hue : hue + 360 * Math.round((before - hue) / 360);
    before = near;
    return near;
  });
}
