import type { Sharp } from 'sharp';
import type { FormatView, ProfileName } from '../../../contract/send-outs';

/** How pixels are written. */
export interface Encoding {
  /** 1..100, for formats that have one. */
  quality: number;
  profile: ProfileName;
}

/** A file format: what it can hold, and how it is written. */
export interface Format extends Omit<FormatView, 'bits' | 'profiles'> {
  bits: readonly (8 | 16)[];
  profiles: readonly ProfileName[];
  /** As a sentence has it: `a JPEG`. */
  title: string;
  /** Endings of file names that mean it, the usual one first. */
  endings: readonly string[];
  /** It is encoded strip by strip while others are still rendered (see render/jpeg-strips). */
  inStrips?: boolean;
  /** Writes pixels; the profile is put in by `embed`, unless the library does it here. */
  encode: (picture: Sharp, encoding: Encoding) => Promise<Buffer>;
  /** Puts a profile into a finished file, byte for byte; left out where `encode` has done it. */
  embed?: (file: Buffer, icc: Buffer) => Buffer;
}

/** Declares a file format. */
export function defineFormat(definition: Omit<Format, 'ending'>): Format {
  return { ...definition, ending: definition.endings[0] };
}

/** Quality from which colour is kept at full size. */
export const chromaOf = (quality: number) => (quality >= 90 ? '4:4:4' : '4:2:0');
