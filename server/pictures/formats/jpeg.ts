import { defineFormat, exifResolution, subsamplingOf } from './define';

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

export const jpeg = defineFormat({
  name: 'jpeg',
  title: 'a JPEG',
  endings: ['jpg', 'jpeg'],
  mediaType: 'image/jpeg',
  bits: [8],
  profiles: ['srgb', 'display-p3', 'wide', 'grey', 'grey-gamma'],
  quality: true,
  chroma: true,
  progressive: true,
  // What shows coarsely at first is coded over the whole picture.
  inStrips: ({ progressive }) => !progressive,
  encode: (picture, { quality, chroma, progressive }) =>
    picture.jpeg({ quality, chromaSubsampling: subsamplingOf(chroma), progressive }).toBuffer(),
  resolution: dpi => [
    `JFIF:XResolution=${Math.round(dpi)}`,
    `JFIF:YResolution=${Math.round(dpi)}`,
    'JFIF:ResolutionUnit=inches',
    // Where there is EXIF, it is read before the other.
    ...exifResolution(dpi),
  ],
  embed: intoJpeg,
});
