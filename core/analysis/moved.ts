import { rgbToOklab } from '../colour/oklab';
import { bandOf, bands, type Band } from './reading';
import { luma } from '../colour/srgb';

/** How a picture moved: what became of its darks, middles and lights. */

export const ways = ['lighter', 'darker', 'warmer', 'cooler', 'more coloured', 'greyer'] as const;
export type Way = (typeof ways)[number];
export type Moves = Record<Band, Way[]>;

/** OKLab by which the mean of a band must move before that is said: of lightness, of colour. */
const SEEN_LIGHT = 0.006;
const SEEN_COLOUR = 0.004;
/** A band with a smaller share of the picture says nothing. */
const LEAST_SHARE = 0.01;
/** The direction of warmth in OKLab's a and b: that of candle light, hue 60°. */
const WARM = [Math.cos(Math.PI / 3), Math.sin(Math.PI / 3)] as const;

/**
 * @param before 8-bit codes
 * @param after the same picture, treated otherwise
 * @param stride numbers a pixel
 */
export function movesBetween(before: ArrayLike<number>, after: ArrayLike<number>, stride: 3 | 4 = 3): Moves {
  const sums = Object.fromEntries(
    bands.map(band => [band, { count: 0, light: 0, warm: 0, chroma: 0 }]),
  ) as Record<Band, { count: number; light: number; warm: number; chroma: number }>;
  const [was, is] = [new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i < before.length; i += stride) {
    const tone = luma(before[i], before[i + 1], before[i + 2]);
    const sum = sums[bandOf(tone)];
    for (let k = 0; k < 3; k++) {
      was[k] = before[i + k] / 255;
      is[k] = after[i + k] / 255;
    }
    rgbToOklab(was);
    rgbToOklab(is);
    sum.count++;
    sum.light += is[0] - was[0];
    sum.warm += (is[1] - was[1]) * WARM[0] + (is[2] - was[2]) * WARM[1];
    sum.chroma += Math.hypot(is[1], is[2]) - Math.hypot(was[1], was[2]);
  }
  const total = before.length / stride;
  const ways = ({ count, light, warm, chroma }: (typeof sums)[Band]): Way[] => {
    if (count < LEAST_SHARE * total) return [];
    return [
      ...(Math.abs(light) > SEEN_LIGHT * count
        ? [light > 0 ? ('lighter' as const) : ('darker' as const)]
        : []),
      ...(Math.abs(warm) > SEEN_COLOUR * count ? [warm > 0 ? ('warmer' as const) : ('cooler' as const)] : []),
      ...(Math.abs(chroma) > SEEN_COLOUR * count
        ? [chroma > 0 ? ('more coloured' as const) : ('greyer' as const)]
        : []),
    ];
  };
  return { darks: ways(sums.darks), middles: ways(sums.middles), lights: ways(sums.lights) };
}
