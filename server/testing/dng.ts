/**
 * Raw files of a camera made for tests, with known numbers in them: DNG, the open kind. Source: DNG 1.4; TIFF/EP; TIFF 6.0.
 */

type Value = number | readonly number[] | string | Buffer;

/** Types of TIFF 6.0, section 2. */
const [BYTE, ASCII, SHORT, LONG, RATIONAL, SRATIONAL] = [1, 2, 3, 4, 5, 10];
const bytesOf: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 10: 8 };

interface Entry {
  tag: number;
  type: number;
  value: Value;
}

/** One directory: its entries, the data of its one strip, and directories beneath it. */
export interface Directory {
  entries: Entry[];
  data: Buffer;
  /** Directories beneath, by tag 330. */
  beneath?: Directory[];
  /** Camera's notes: EXIF, by tag 34665. */
  exif?: Entry[];
}

const DENOMINATOR = 1_000_000;

function encoded({ type, value }: Entry): { count: number; bytes: Buffer } {
  if (Buffer.isBuffer(value)) return { count: value.length / bytesOf[type], bytes: value };
  if (typeof value === 'string') {
    const bytes = Buffer.from(`${value}\0`, 'latin1');
    return { count: bytes.length, bytes };
  }
  const values = typeof value === 'number' ? [value] : value;
  const bytes = Buffer.alloc(values.length * bytesOf[type]);
  values.forEach((v, i) => {
    const at = i * bytesOf[type];
    if (type === BYTE) bytes.writeUInt8(v, at);
    else if (type === SHORT) bytes.writeUInt16LE(v, at);
    else if (type === LONG) bytes.writeUInt32LE(v, at);
    else {
      const n = Math.round(v * DENOMINATOR);
      if (type === SRATIONAL) bytes.writeInt32LE(n, at);
      else bytes.writeUInt32LE(n, at);
      bytes.writeUInt32LE(DENOMINATOR, at + 4);
    }
  });
  return { count: values.length, bytes };
}

/** A little-endian TIFF of pages. */
export function tiffOf(pages: readonly Directory[]): Buffer {
  const parts: Buffer[] = [Buffer.from('II*\0\0\0\0\0', 'latin1')];
  let at = 8;
  const put = (bytes: Buffer) => {
    const here = at;
    const padded = bytes.length % 2 ? Buffer.concat([bytes, Buffer.alloc(1)]) : bytes;
    parts.push(padded);
    at += padded.length;
    return here;
  };
  /** Writes a directory, and gives where it stands and where the offset of the next is to be written. */
  const putDirectory = (entries: Entry[]): { here: number; next: () => Buffer } => {
    const sorted = [...entries].sort((a, b) => a.tag - b.tag);
    const table = Buffer.alloc(2 + sorted.length * 12 + 4);
    table.writeUInt16LE(sorted.length, 0);
    sorted.forEach((entry, i) => {
      const { count, bytes } = encoded(entry);
      const to = 2 + i * 12;
      table.writeUInt16LE(entry.tag, to);
      table.writeUInt16LE(entry.type, to + 2);
      table.writeUInt32LE(count, to + 4);
      if (bytes.length <= 4) bytes.copy(table, to + 8);
      else table.writeUInt32LE(put(bytes), to + 8);
    });
    return { here: put(table), next: () => table };
  };
  const write = (directory: Directory): ReturnType<typeof putDirectory> => {
    const entries = [...directory.entries];
    entries.push({ tag: 273, type: LONG, value: put(directory.data) });
    entries.push({ tag: 279, type: LONG, value: directory.data.length });
    if (directory.beneath?.length) {
      entries.push({ tag: 330, type: LONG, value: directory.beneath.map(d => write(d).here) });
    }
    if (directory.exif) entries.push({ tag: 34665, type: LONG, value: putDirectory(directory.exif).here });
    return putDirectory(entries);
  };
  const written = pages.map(write);
  parts[0].writeUInt32LE(written[0].here, 4);
  written.forEach(({ next }, i) => {
    const table = next();
    table.writeUInt32LE(written.at(i + 1)?.here ?? 0, table.length - 4);
  });
  return Buffer.concat(parts);
}

/** The entries of a page of a TIFF. */
export const pageEntries = (
  width: number,
  height: number,
  bits: number,
  channels: 1 | 3,
  { photometric = channels === 3 ? 2 : 1, format = 1, subfile = 0, compression = 1 } = {},
): Entry[] => [
  { tag: 254, type: LONG, value: subfile },
  { tag: 256, type: LONG, value: width },
  { tag: 257, type: LONG, value: height },
  { tag: 258, type: SHORT, value: Array.from({ length: channels }, () => bits) },
  { tag: 259, type: SHORT, value: compression },
  { tag: 262, type: SHORT, value: photometric },
  { tag: 277, type: SHORT, value: channels },
  { tag: 278, type: LONG, value: height },
  { tag: 284, type: SHORT, value: 1 },
  { tag: 339, type: SHORT, value: Array.from({ length: channels }, () => format) },
];

/** XYZ (D65) to linear sRGB: a camera whose colours are those of sRGB. Source: IEC 61966-2-1. */
const SRGB_CAMERA = [
  3.2404542, -1.5371385, -0.4985314, -0.969266, 1.8760108, 0.041556, 0.0556434, -0.2040259, 1.0572252,
];

export interface RawOptions {
  width: number;
  height: number;
  /** Linear light of the camera, 0..1, at a pixel. */
  at: (x: number, y: number) => readonly [number, number, number];
  /** Three values a pixel, demosaiced already. */
  linear?: boolean;
  /** A JPEG that stands first in the file. */
  preview?: { jpeg: Buffer; width: number; height: number };
  orientation?: number;
  /** Compression that is said of the raw data: 1 none. */
  compression?: number;
  exif?: Entry[];
}

/** A DNG with its picture as a mosaic of red, green, green and blue, or linear. */
export function dng({
  width,
  height,
  at,
  linear,
  preview,
  orientation = 1,
  compression = 1,
  exif,
}: RawOptions): Buffer {
  const channels = linear ? 3 : 1;
  const codes = new Uint16Array(width * height * channels);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const colour = at(x, y);
      const i = y * width + x;
      if (linear) for (let k = 0; k < 3; k++) codes[i * 3 + k] = Math.round(colour[k] * 65535);
      else codes[i] = Math.round(colour[(y % 2) + (x % 2)] * 65535);
    }
  }
  const data = Buffer.from(codes.buffer);
  const picture: Directory = {
    entries: [
      ...pageEntries(width, height, 16, channels, { photometric: linear ? 34892 : 32803, compression }),
      ...(linear
        ? []
        : [
            { tag: 33421, type: SHORT, value: [2, 2] },
            { tag: 33422, type: BYTE, value: Buffer.from([0, 1, 1, 2]) },
          ]),
      { tag: 50714, type: LONG, value: 0 },
      { tag: 50717, type: LONG, value: 65535 },
    ],
    data,
  };
  const camera: Entry[] = [
    { tag: 271, type: ASCII, value: 'Tideline' },
    { tag: 272, type: ASCII, value: 'Tideline Two' },
    { tag: 274, type: SHORT, value: orientation },
    { tag: 50706, type: BYTE, value: Buffer.from([1, 4, 0, 0]) },
    { tag: 50707, type: BYTE, value: Buffer.from([1, 1, 0, 0]) },
    { tag: 50708, type: ASCII, value: 'Tideline Two' },
    { tag: 50721, type: SRATIONAL, value: SRGB_CAMERA },
    { tag: 50728, type: RATIONAL, value: [1, 1, 1] },
    { tag: 50778, type: SHORT, value: 21 },
  ];
  if (!preview) return tiffOf([{ ...picture, entries: [...picture.entries, ...camera], exif }]);
  const first: Directory = {
    entries: [
      ...pageEntries(preview.width, preview.height, 8, 3, { photometric: 6, subfile: 1, compression: 7 }),
      ...camera,
    ],
    data: preview.jpeg,
    beneath: [picture],
    exif,
  };
  return tiffOf([first]);
}
