import { Unzlib } from 'fflate';

/** The chunks of a PNG, looked at before anything in them is unpacked. Source: PNG (Third Edition), 5.3, 10, 11.2. */

interface Chunk {
  type: string;
  /** With its length, type and sum. */
  whole: Uint8Array;
  data: Uint8Array;
}

const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];
/** Chunks that make up the picture; all others tell of it, and some of those are packed themselves. */
const OF_PICTURE = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);
/** Bytes unpacked at a time while they are counted. */
const SLICE = 16 * 1024;
/** Deflate makes no more of a byte than this. Source: RFC 1951; zlib's technical details. */
const MOST_RATIO = 1032;

function chunksOf(bytes: Uint8Array): Chunk[] {
  if (bytes.length < 33 || SIGNATURE.some((v, i) => bytes[i] !== v)) throw new Error('not a PNG');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const end = at + 12 + length;
    if (end > bytes.length) throw new Error('the PNG is cut off');
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    chunks.push({ type, whole: bytes.subarray(at, end), data: bytes.subarray(at + 8, end - 4) });
    if (type === 'IEND') break;
    at = end;
  }
  return chunks;
}

const joined = (parts: readonly Uint8Array[]): Uint8Array => {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
};

/** Throws where the packed data is more than the picture has. */
function refuseMore(packed: readonly Uint8Array[], most: number): void {
  const length = packed.reduce((sum, part) => sum + part.length, 0);
  if (length * MOST_RATIO <= most) return;
  let unpacked = 0;
  const unpack = new Unzlib(part => {
    unpacked += part.length;
    if (unpacked > most) throw new RangeError('the PNG holds more than its picture');
  });
  try {
    for (const part of packed) {
      for (let at = 0; at < part.length; at += SLICE) unpack.push(part.subarray(at, at + SLICE));
    }
  } catch (error) {
    if (error instanceof RangeError) throw error;
    throw new Error('not a PNG that can be read', { cause: error });
  }
}

/**
 * A PNG that is safe to be decoded: its size stands first and is within bounds, its data is no more than its picture, and nothing
 * else that is packed is in it. Throws an Error that says what is wrong.
 * @param mostPixels that the picture may have
 */
export function boundedPng(bytes: Uint8Array, mostPixels: number): Uint8Array {
  const chunks = chunksOf(bytes);
  const [head] = chunks;
  if (head?.type !== 'IHDR' || head.data.length !== 13)
    throw new Error('not a PNG: its size does not stand first');
  if (chunks.filter(({ type }) => type === 'IHDR').length > 1)
    throw new Error('the PNG tells its size twice');
  const view = new DataView(head.data.buffer, head.data.byteOffset, 13);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  if (!width || !height || width * height > mostPixels) throw new Error('the PNG is too large');
  // At most four channels of 16 bits; a byte for the filter of each row, of each of seven passes.
  const channels = [1, 0, 3, 1, 2, 0, 4][head.data[9]] ?? 4;
  const row = Math.ceil((width * channels * head.data[8]) / 8);
  const rows = head.data[12] ? 2 * height + 7 : height;
  const most = row * height + rows + (head.data[12] ? 7 * height : 0) + 1024;
  refuseMore(
    chunks.flatMap(({ type, data }) => (type === 'IDAT' ? [data] : [])),
    most,
  );
  return joined([
    Uint8Array.from(SIGNATURE),
    ...chunks.flatMap(({ type, whole }) => (OF_PICTURE.has(type) ? [whole] : [])),
  ]);
}
