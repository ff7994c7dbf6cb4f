import { defineFormat, exifResolution } from './define';

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

export const tiff = defineFormat({
  name: 'tiff',
  title: 'a TIFF',
  endings: ['tif', 'tiff'],
  mediaType: 'image/tiff',
  bits: [8, 16],
  profiles: ['srgb', 'display-p3', 'wide', 'grey', 'grey-gamma'],
  packings: ['lzw', 'deflate', 'none'],
  encode: (picture, { packing }) =>
    picture.tiff({ compression: packing, predictor: packing === 'none' ? 'none' : 'horizontal' }).toBuffer(),
  resolution: exifResolution,
  embed: intoTiff,
});
