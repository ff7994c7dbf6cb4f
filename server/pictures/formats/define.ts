import type { Sharp } from 'sharp';
import type { Bits, FormatView, ProfileName, SendOutSettings } from '../../../contract/send-outs';

/** How pixels are written. */
export type Encoding = Pick<
  SendOutSettings,
  'bits' | 'profile' | 'quality' | 'chroma' | 'progressive' | 'packing'
>;

/** A file format: what it can hold, and how it is written. */
export interface Format extends Omit<FormatView, 'bits' | 'profiles' | 'packings'> {
  bits: readonly Bits[];
  profiles: readonly ProfileName[];
  packings: SendOutSettings['packing'][];
  /** As a sentence has it: `a JPEG`. */
  title: string;
  /** Endings of file names that mean it, the usual one first. */
  endings: readonly string[];
  /** It is encoded strip by strip while others are still rendered (see render/jpeg-strips). */
  inStrips?: (encoding: Encoding) => boolean;
  /** The tags by which the resolution is said, as metadata/exiftool names them. */
  resolution?: (dpi: number) => string[];
  /**
   * Writes pixels; the profile is put in by `embed`, unless that is done here.
   * @param icc the bytes of the profile that the pixels are in
   */
  encode: (picture: Sharp, encoding: Encoding, icc: Buffer) => Promise<Buffer>;
  /** Puts a profile into a finished file, byte for byte; left out where `encode` has done it. */
  embed?: (file: Buffer, icc: Buffer) => Buffer;
}

/** What a format has not, unless it says so. */
type MayLack = 'quality' | 'chroma' | 'progressive' | 'packings' | 'layers';

/** Declares a file format. */
export function defineFormat(
  definition: Omit<Format, 'ending' | MayLack> & Partial<Pick<Format, MayLack>>,
): Format {
  return {
    quality: false,
    chroma: false,
    progressive: false,
    packings: [],
    layers: false,
    ...definition,
    ending: definition.endings[0],
  };
}

/** A resolution as EXIF has it. */
export const exifResolution = (dpi: number): string[] => [
  `IFD0:XResolution=${dpi}`,
  `IFD0:YResolution=${dpi}`,
  'IFD0:ResolutionUnit=inches',
];

/** Colour at the full size, or at half of it. */
export const subsamplingOf = (chroma: SendOutSettings['chroma']) => (chroma === 'kept' ? '4:4:4' : '4:2:0');
