import { crc32, deflateSync } from 'node:zlib';

/**
 * Puts an ICC profile into a finished file, byte for byte, so that no colour engine touches the pixels
 * again.
 */

/** JPEG: APP2 segments after the JFIF header. Source: ICC.1:2010, annex B.4. */
function intoJpeg(file: Buffer, icc: Buffer): Buffer {
  let at = 2;
  if (file[2] === 0xff && file[3] === 0xe0) at = 4 + file.readUInt16BE(4);
  const PART = 65519;
  const parts = Math.ceil(icc.length / PART);
  const segments: Buffer[] = [];
  for (let i = 0; i < parts; i++) {
    const data = icc.subarray(i * PART, (i + 1) * PART);
    const head = Buffer.alloc(18);
    head.writeUInt16BE(0xffe2, 0);
    head.writeUInt16BE(data.length + 16, 2);
    head.write('ICC_PROFILE\0', 4, 'latin1');
    head[16] = i + 1;
    head[17] = parts;
    segments.push(head, data);
  }
  return Buffer.concat([file.subarray(0, at), ...segments, file.subarray(at)]);
}

/** PNG: an iCCP chunk after the header. Source: W3C PNG, 11.3.2.3. */
function intoPng(file: Buffer, icc: Buffer): Buffer {
  const HEADER_END = 33;
  const body = Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(icc)]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(body.length - 4, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  return Buffer.concat([file.subarray(0, HEADER_END), chunk, file.subarray(HEADER_END)]);
}

const ICC_TAG = 34675;
const UNDEFINED_TYPE = 7;

/** TIFF: the first directory written again at the end, with the profile's tag. Source: TIFF 6.0, section 2. */
function intoTiff(file: Buffer, icc: Buffer): Buffer {
  const little = file.toString('latin1', 0, 2) === 'II';
  const u16 = (at: number) => (little ? file.readUInt16LE(at) : file.readUInt16BE(at));
  const u32 = (at: number) => (little ? file.readUInt32LE(at) : file.readUInt32BE(at));
  const pad = Buffer.alloc(file.length % 2);
  const iccAt = file.length + pad.length;
  const directory = u32(4);
  const count = u16(directory);
  const entries: [number, Buffer][] = [];
  for (let i = 0; i < count; i++) {
    const at = directory + 2 + i * 12;
    if (u16(at) !== ICC_TAG) entries.push([u16(at), file.subarray(at, at + 12)]);
  }
  const put16 = (b: Buffer, v: number, at: number) =>
    little ? b.writeUInt16LE(v, at) : b.writeUInt16BE(v, at);
  const put32 = (b: Buffer, v: number, at: number) =>
    little ? b.writeUInt32LE(v, at) : b.writeUInt32BE(v, at);
  const own = Buffer.alloc(12);
  put16(own, ICC_TAG, 0);
  put16(own, UNDEFINED_TYPE, 2);
  put32(own, icc.length, 4);
  put32(own, iccAt, 8);
  entries.push([ICC_TAG, own]);
  entries.sort((a, b) => a[0] - b[0]);

  const iccPad = Buffer.alloc(icc.length % 2);
  const head = Buffer.alloc(2);
  put16(head, entries.length, 0);
  const next = Buffer.from(file.subarray(directory + 2 + count * 12, directory + 6 + count * 12));
  const start = Buffer.from(file.subarray(0, 8));
  put32(start, iccAt + icc.length + iccPad.length, 4);
  return Buffer.concat([start, file.subarray(8), pad, icc, iccPad, head, ...entries.map(e => e[1]), next]);
}

const ICC_FLAG = 0x20;

/**
 * A lossy WebP: an extended header and an ICCP chunk before the picture's. Sources: WebP Container
 * Specification; RFC 6386, section 9.1 (the size in the key frame's header).
 */
function intoWebp(file: Buffer, icc: Buffer): Buffer {
  const width = file.readUInt16LE(26) & 0x3fff;
  const height = file.readUInt16LE(28) & 0x3fff;
  const chunk = (name: string, data: Buffer) => {
    const head = Buffer.alloc(8);
    head.write(name, 0, 'latin1');
    head.writeUInt32LE(data.length, 4);
    return Buffer.concat([head, data, Buffer.alloc(data.length % 2)]);
  };
  const extended = Buffer.alloc(10);
  extended[0] = ICC_FLAG;
  extended.writeUIntLE(width - 1, 4, 3);
  extended.writeUIntLE(height - 1, 7, 3);
  const riff = Buffer.from(file.subarray(0, 12));
  const body = Buffer.concat([chunk('VP8X', extended), chunk('ICCP', icc), file.subarray(12)]);
  riff.writeUInt32LE(body.length + 4, 4);
  return Buffer.concat([riff, body]);
}

const ways = { jpeg: intoJpeg, png: intoPng, tiff: intoTiff, webp: intoWebp };

/** The file with the profile in it. `format` is what the file is. */
export function embedProfile(file: Buffer, format: keyof typeof ways, icc: Buffer): Buffer {
  return ways[format](file, icc);
}
