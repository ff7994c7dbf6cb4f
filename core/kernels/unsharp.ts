import type { RgbPart } from './channels';
import { CHUNK, compiled, inChunks } from './compiled';
import { blurInRows, LEAST_SIGMA } from './gaussian';
import { planeRows, type Plane } from './planes';

/**
 * Unsharp masking on luma: to each channel the luma less its blur, times an amount; detail smaller than the threshold is
 * eased out.
 */
export interface Sharpening {
  amount: number;
  /** Encoded. */
  threshold: number;
}

/** By a Gaussian of a deviation in pixels: wrong as near to the part's edges as its taps reach. */
export function sharpenBy(
  { rgb, width, height }: Omit<RgbPart, 'x' | 'y'>,
  sigma: number,
  { amount, threshold }: Sharpening,
  out: Float32Array,
): void {
  if (!(sigma > LEAST_SIGMA)) {
    out.set(rgb);
    return;
  }
  const { kernels, memory, greys } = compiled();
  blurInRows(
    width,
    height,
    sigma,
    (y, x, count, to, room) => {
      const from = (y * width + x) * 3;
      room.view.set(rgb.subarray(from, from + count * 3));
      kernels.lumas(room.at, count, to);
    },
    (y, x, count, blurred, room) => {
      const from = (y * width + x) * 3;
      room.view.set(rgb.subarray(from, from + count * 3));
      kernels.lumas(room.at, count, greys.at);
      kernels.addDetail(room.at, greys.at, blurred, count, amount, threshold);
      out.set(new Float32Array(memory.buffer, room.at, count * 3), from);
    },
  );
}

/** By a blurred luma that stands for the whole picture. */
export function sharpenFrom(
  part: RgbPart,
  blurred: Plane,
  of: { width: number; height: number },
  { amount, threshold }: Sharpening,
  out: Float32Array,
): void {
  const { kernels, colours, greys, workspace } = compiled();
  const { row, read } = planeRows(blurred, of, part);
  const { buffer, at } = workspace(CHUNK * Float32Array.BYTES_PER_ELEMENT);
  const blurs = new Float32Array(buffer, at, CHUNK);
  for (let y = 0; y < part.height; y++) {
    read(y);
    inChunks(part.width, (x, count) => {
      const from = (y * part.width + x) * 3;
      colours.view.set(part.rgb.subarray(from, from + count * 3));
      blurs.set(row.subarray(x, x + count));
      kernels.lumas(colours.at, count, greys.at);
      kernels.addDetail(colours.at, greys.at, at, count, amount, threshold);
      out.set(colours.view.subarray(0, count * 3), from);
    });
  }
}
