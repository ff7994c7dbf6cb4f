import { crc32, deflateSync } from 'node:zlib';
import { defineFormat } from './define';

/** PNG: an iCCP chunk after the header. Source: W3C PNG, 11.3.2.3. */
export function intoPng(file: Buffer, icc: Buffer): Buffer {
  const HEADER_END = 33;
  const body = Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(icc)]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(body.length - 4, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  return Buffer.concat([file.subarray(0, HEADER_END), chunk, file.subarray(HEADER_END)]);
}

export const png = defineFormat({
  name: 'png',
  title: 'a PNG',
  endings: ['png'],
  mediaType: 'image/png',
  bits: [8, 16],
  profiles: ['srgb', 'display-p3', 'wide', 'grey', 'grey-gamma'],
  encode: picture => picture.png({ compressionLevel: 6 }).toBuffer(),
  resolution: dpi => {
    const perMetre = Math.round(dpi / 0.0254);
    return [
      `PNG-pHYs:PixelsPerUnitX=${perMetre}`,
      `PNG-pHYs:PixelsPerUnitY=${perMetre}`,
      'PNG-pHYs:PixelUnits=meters',
    ];
  },
  embed: intoPng,
});
