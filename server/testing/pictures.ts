import sharp from 'sharp';
import { formatNamed } from '../pictures/formats';

/** Picture files made for tests, with known numbers in them. */

export type Rgb = readonly [number, number, number];

/** RGB codes of a picture painted by a function of pixel column and row. */
export function painted<T extends Uint8Array | Uint16Array>(
  codes: T,
  width: number,
  at: (x: number, y: number) => Rgb,
): T {
  for (let i = 0; i < codes.length / 3; i++) {
    const rgb = at(i % width, Math.floor(i / width));
    for (let k = 0; k < 3; k++) codes[i * 3 + k] = rgb[k];
  }
  return codes;
}

/** The Display P3 profile that ships with the picture library. */
export async function p3Profile(): Promise<Buffer> {
  const tagged = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
    .withIccProfile('p3')
    .jpeg()
    .toBuffer();
  return (await sharp(tagged).metadata()).icc!;
}

/** A 16-bit TIFF of one colour, its codes being those of the profile where one is given. */
export async function tiff16(width: number, height: number, at: (x: number, y: number) => Rgb, icc?: Buffer) {
  const codes = painted(new Uint16Array(width * height * 3), width, at);
  const file = await sharp(codes, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .tiff({ compression: 'none' })
    .toBuffer();
  return icc ? formatNamed('tiff').embed!(file, icc) : file;
}

/** An 8-bit PNG. */
export function png8(width: number, height: number, at: (x: number, y: number) => Rgb): Promise<Buffer> {
  const codes = painted(new Uint8Array(width * height * 3), width, at);
  return sharp(codes, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** An EXIF segment that holds nothing but an orientation. Source: Exif 2.32, section 4.5. */
function exifOrientation(orientation: number): Buffer {
  const tiff = Buffer.alloc(26);
  tiff.write('MM\0*', 0, 'latin1');
  tiff.writeUInt32BE(8, 4);
  tiff.writeUInt16BE(1, 8);
  tiff.writeUInt16BE(0x0112, 10);
  tiff.writeUInt16BE(3, 12);
  tiff.writeUInt32BE(1, 14);
  tiff.writeUInt16BE(orientation, 18);
  const head = Buffer.alloc(10);
  head.writeUInt16BE(0xffe1, 0);
  head.writeUInt16BE(tiff.length + 8, 2);
  head.write('Exif\0\0', 4, 'latin1');
  return Buffer.concat([head, tiff]);
}

/** A JPEG of high quality with an EXIF orientation, its codes being those of the profile where given. */
export async function jpegTurned(
  width: number,
  height: number,
  at: (x: number, y: number) => Rgb,
  orientation: number,
  icc?: Buffer,
): Promise<Buffer> {
  const codes = painted(new Uint8Array(width * height * 3), width, at);
  const plain = await sharp(codes, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
    .toBuffer();
  const file = Buffer.concat([plain.subarray(0, 2), exifOrientation(orientation), plain.subarray(2)]);
  return icc ? formatNamed('jpeg').embed!(file, icc) : file;
}
