import type { SendOutSettings } from '../../contract/send-outs';
import { outputEdge } from '../../core/frame/output-size';

/**
 * About how large files become, before they are made: bits a pixel as the median of eight photographs came to. A calm sky takes half as
 * much, a weedy shore half as much again.
 */

/** By quality; between them in steps that grow alike. */
type ByQuality = readonly (readonly [quality: number, bits: number])[];
const kept: ByQuality = [
  [1, 0.12],
  [50, 0.5],
  [70, 0.73],
  [80, 0.99],
  [90, 1.67],
  [95, 2.72],
  [100, 8.1],
];
const halved: ByQuality = [
  [1, 0.1],
  [50, 0.44],
  [70, 0.65],
  [80, 0.86],
  [90, 1.42],
  [95, 2.21],
  [100, 5],
];
const webp: ByQuality = [
  [1, 0.05],
  [50, 0.2],
  [70, 0.3],
  [80, 0.43],
  [90, 0.99],
  [95, 1.78],
  [100, 2.55],
];
const avif: ByQuality = [
  [1, 0.03],
  [50, 0.27],
  [70, 0.66],
  [80, 1],
  [90, 1.8],
  [95, 2.91],
  [100, 7.9],
];

function at(table: ByQuality, quality: number): number {
  const i = Math.max(
    1,
    table.findIndex(([q]) => q >= quality),
  );
  const [[q0, b0], [q1, b1]] = [table[i - 1], table[i]];
  return b0 * (b1 / b0) ** ((quality - q0) / (q1 - q0));
}

/** Of a picture packed without loss, what is left of its bits. */
const PACKED = { none: 1, lzw: 0.58, deflate: 0.55 };
const PNG = 0.69;
/** The lower byte of 16 bits is noise, and does not get smaller. */
const DEEP = 0.97;

/** Sharpened pictures are harder to pack: by so much at the whole amount. */
const SHARPER = { none: 0, screen: 0.6, glossy: 1, matte: 1.2 };

/** Of layers: the bare photograph, what is made of it and all together; each wash is mostly nothing. */
const WHOLE_LAYERS = 3;
const WASH = 1.5;

function bitsAPixel(
  { format, bits, profile, quality, chroma, packing, sharpen }: SendOutSettings,
  steps: readonly string[],
): number {
  const sharper = 1 + SHARPER[sharpen.purpose] * sharpen.amount;
  const isGrey = profile === 'grey' || profile === 'grey-gamma';
  const whole = (isGrey ? 1 : 3) * (bits === 16 ? 16 : 8);
  switch (format) {
    case 'jpeg':
      return at(chroma === 'kept' ? kept : halved, quality) * (isGrey ? 0.8 : 1) * sharper;
    case 'webp':
      return at(webp, quality) * sharper;
    case 'avif':
      return at(avif, quality) * (bits === 10 ? 1.05 : 1) * sharper;
    case 'tiff':
      return whole * (bits === 16 && packing !== 'none' ? DEEP : PACKED[packing]);
    case 'layers':
      return WHOLE_LAYERS * whole * PNG + WASH * steps.filter(kind => kind === 'wash').length;
    default:
      return whole * (bits === 16 ? DEEP : PNG);
  }
}

/** The profile and the rest beside the pixels. */
const BESIDE = 4000;

/**
 * Pixels and bytes of a file, about.
 * @param steps the kinds of the take's steps
 */
export function estimated(
  settings: SendOutSettings,
  full: { width: number; height: number },
  steps: readonly string[] = [],
) {
  const edge = outputEdge(settings.size, settings.dpi, full);
  const scale = edge / Math.max(full.width, full.height);
  const pixels = full.width * full.height * scale * scale;
  return { pixels, bytes: (pixels * bitsAPixel(settings, steps)) / 8 + BESIDE };
}
