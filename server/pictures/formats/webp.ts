import { defineFormat, exifResolution } from './define';

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

export const webp = defineFormat({
  name: 'webp',
  title: 'a WebP',
  endings: ['webp'],
  mediaType: 'image/webp',
  bits: [8],
  profiles: ['srgb', 'display-p3', 'wide'],
  quality: true,
  encode: (picture, { quality }) => picture.webp({ quality }).toBuffer(),
  resolution: exifResolution,
  embed: intoWebp,
});
