import { halve } from '../../core/kernels/halve';
import sharp from 'sharp';
import { greyCurve, greyTable } from './icc';
import { openOptions, PictureError, type PictureFacts } from './inspect';

/** A whole picture: sRGB-encoded RGB, interleaved, upright. */
export interface Pixels {
  width: number;
  height: number;
  /** Three numbers a pixel; 8-bit codes where the file has no more. */
  codes: Uint8Array | Uint16Array;
}

const as16 = (data: Buffer) => new Uint16Array(data.buffer, data.byteOffset, data.length / 2);

/** 16-bit codes of 8-bit ones: 255 becomes 65535. */
export function widen(codes: Uint8Array): Uint16Array {
  const out = new Uint16Array(codes.length);
  for (let i = 0; i < codes.length; i++) out[i] = codes[i] * 257;
  return out;
}

async function decodeGrey(path: string, bits: 8 | 16, icc: Buffer | undefined) {
  const { data, info } = await sharp(path, { ...openOptions, ignoreIcc: true })
    .autoOrient()
    .flatten({ background: '#fff' })
    .toColourspace(bits === 16 ? 'grey16' : 'b-w')
    .extractChannel(0)
    .raw({ depth: bits === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const grey = bits === 16 ? as16(data) : data;
  const curve = icc && greyCurve(icc);
  const table = curve && greyTable(curve);
  const codes = table || bits === 16 ? new Uint16Array(grey.length * 3) : new Uint8Array(grey.length * 3);
  for (let i = 0, o = 0; i < grey.length; i++, o += 3) {
    const v = table ? table[bits === 16 ? grey[i] : grey[i] * 257] : grey[i];
    codes[o] = v;
    codes[o + 1] = v;
    codes[o + 2] = v;
  }
  return { codes, width: info.width, height: info.height };
}

/**
 * Decodes a whole file: EXIF orientation applied, the embedded profile converted to sRGB, alpha laid on
 * white. 16-bit files keep 16 bits. Throws a PictureError where the data is damaged.
 */
export async function decodePicture(path: string, facts: PictureFacts): Promise<Pixels> {
  try {
    const { icc } = await sharp(path, openOptions).metadata();
    if (facts.grey) return await decodeGrey(path, facts.bits, icc);

    let pipeline = sharp(path, openOptions).autoOrient().flatten({ background: '#fff' });
    if (facts.bits === 16) {
      pipeline = pipeline.toColourspace('rgb16');
      // sharp takes 16-bit colour with a profile to Display P3 on the way in; this brings it to sRGB.
      if (icc) pipeline = pipeline.withIccProfile('srgb', { attach: false });
    } else pipeline = pipeline.toColourspace('srgb');
    const { data, info } = await pipeline
      .raw({ depth: facts.bits === 16 ? 'ushort' : 'uchar' })
      .toBuffer({ resolveWithObject: true });
    if (info.channels !== 3) throw new PictureError(`has ${info.channels} channels`);
    return { codes: facts.bits === 16 ? as16(data) : data, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    throw new PictureError('is damaged: its picture data cannot be read to the end');
  }
}

/**
 * Resizes to an exact size, in linear light, so that fine detail keeps its brightness; the result has 16-bit
 * codes. Half the size is a mean of pixels; else Mitchell's kernel, since Lanczos rings visibly along hard edges
 * there.
 */
export async function resizePixels(pixels: Pixels, width: number, height: number): Promise<Pixels> {
  const { codes } = pixels;
  if (width === pixels.width && height === pixels.height) {
    return { width, height, codes: codes instanceof Uint16Array ? codes : widen(codes) };
  }
  if (width === Math.ceil(pixels.width / 2) && height === Math.ceil(pixels.height / 2)) {
    return { width, height, codes: halve(codes, pixels.width, pixels.height) };
  }
  const data = await sharp(codes, { raw: { width: pixels.width, height: pixels.height, channels: 3 } })
    .pipelineColourspace('scrgb')
    .resize({ width, height, fit: 'fill', kernel: 'mitchell' })
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer();
  return { width, height, codes: as16(data) };
}
