import type { Size } from './geometry';

/** How large a picture goes out: never larger than it is. */
export type OutputSize =
  | { by: 'full' }
  | { by: 'long-edge' | 'short-edge'; pixels: number }
  | { by: 'megapixels'; megapixels: number }
  | { by: 'print'; length: number; unit: 'cm' | 'inch' };

/** Centimetres of an inch. */
const INCH = 2.54;

/** A print's long edge in inches. */
const inches = ({ length, unit }: { length: number; unit: 'cm' | 'inch' }) =>
  unit === 'inch' ? length : length / INCH;

/**
 * The long edge in pixels.
 * @param full the picture in its frame, at full size
 * @param dpi dots an inch, by which a print's length is pixels
 */
export function outputEdge(size: OutputSize, dpi: number, full: Size): number {
  const long = Math.max(full.width, full.height);
  const short = Math.min(full.width, full.height);
  const wanted = () => {
    switch (size.by) {
      case 'full':
        return long;
      case 'long-edge':
        return size.pixels;
      case 'short-edge':
        return (size.pixels * long) / short;
      case 'megapixels':
        return Math.sqrt((size.megapixels * 1e6 * long) / short);
      case 'print':
        return inches(size) * dpi;
    }
  };
  return Math.max(1, Math.min(long, Math.round(wanted())));
}

/** The resolution that a file says, in dots an inch: a print is as long as was asked for, even where its pixels are too few for it. */
export function writtenDpi(size: OutputSize, dpi: number, out: Size): number {
  return size.by === 'print' ? Math.max(out.width, out.height) / inches(size) : dpi;
}
