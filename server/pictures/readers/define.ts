/** Kinds of files that the picture library does not read: each by a codec of its own. */

/** What a file's head says of the picture in it. */
export interface Head {
  /** Pixels, upright. */
  width: number;
  height: number;
  bits: 8 | 16;
  /** Colour or grey, with alpha or without. */
  channels: 1 | 2 | 3 | 4;
  /** The embedded profile. */
  icc: Buffer | null;
  /** What of the file it is, in words, where the file holds more. */
  part: string | null;
}

/** The codes of a picture as they stand in its file, upright, interleaved; alpha behind the colours. */
export interface Laid {
  width: number;
  height: number;
  channels: 1 | 2 | 3 | 4;
  codes: Uint8Array | Uint16Array;
}

export interface Reader {
  /** As photographers say it. */
  name: string;
  mediaType: string;
  /** Whether a file is of this kind, by its first bytes, of which there are at least 64. */
  is: (first: Buffer, path: string) => boolean | Promise<boolean>;
  /** Throws where the file cannot be read. */
  head: (path: string) => Promise<Head>;
  read: (path: string) => Promise<Laid>;
}

/** Says what a reader does; the place where the shape of one is checked. */
export const reader = (of: Reader): Reader => of;
