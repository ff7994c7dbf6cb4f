import { halve } from '../../core/kernels/halve';
import sharp, { type Metadata, type SharpOptions } from 'sharp';
import { greyToRgb, layOnWhite, lookUp, narrow, splitAlpha } from '../../core/kernels/profile-codes';
import { conversionFits, conversionOf } from './colour-engine';
import { openOptions, PictureError, type PictureFacts } from './inspect';

/** A whole picture: sRGB-encoded RGB, interleaved, upright. */
export interface Pixels {
  width: number;
  height: number;
  /** Three numbers a pixel; 8-bit codes where the file has no more. */
  codes: Uint8Array | Uint16Array;
}

/** A picture out of a file that may be damaged. */
export interface Decoded extends Pixels {
  /** What is wrong with its data, in words; null where nothing is. */
  damage: string | null;
}

/** How a file is opened: broken data is an error, or is read as far as it goes. */
type Opening = SharpOptions;

const as16 = (data: Buffer) => new Uint16Array(data.buffer, data.byteOffset, data.length / 2);

/** 16-bit codes of 8-bit ones: 255 becomes 65535. */
export function widen(codes: Uint8Array): Uint16Array {
  const out = new Uint16Array(codes.length);
  for (let i = 0; i < codes.length; i++) out[i] = codes[i] * 257;
  return out;
}

/** Whether a file is decoded to 16-bit codes: it has them, or is grey with a profile, whose tones are its own. */
export const isWide = ({ bits, grey, profile }: PictureFacts): boolean =>
  bits === 16 || (grey && profile !== null);

/** The codes of a file as they stand in it, upright; alpha stays behind them. */
async function asTheyAre(
  path: string,
  opening: Opening,
  space: 'grey16' | 'b-w' | 'rgb16',
  depth: 'ushort' | 'uchar',
) {
  const { data, info } = await sharp(path, { ...opening, ignoreIcc: true })
    .autoOrient()
    .toColourspace(space)
    .raw({ depth })
    .toBuffer({ resolveWithObject: true });
  return { codes: depth === 'ushort' ? as16(data) : data, ...info };
}

/** Laid on white where there is alpha. What is converted is converted first: paper is white whatever the profile. */
function converted(codes: Uint16Array, channels: number, convert: (colours: Uint16Array) => Uint16Array) {
  if (channels === 1 || channels === 3) return convert(codes);
  const { colours, alpha } = splitAlpha(codes, channels);
  const made = convert(colours);
  layOnWhite(made, alpha);
  return made;
}

async function decodeGrey(
  path: string,
  opening: Opening,
  facts: PictureFacts,
  { icc, hasAlpha }: Metadata,
): Promise<Pixels> {
  // In 8 bits of grey the picture library drops the alpha.
  const in16 = facts.bits === 16 || hasAlpha;
  const { width, height, channels, codes } = await (in16
    ? asTheyAre(path, opening, 'grey16', 'ushort')
    : asTheyAre(path, opening, 'b-w', 'uchar'));
  if (channels > 2) throw new PictureError(`has ${channels} channels`);
  if (!icc && channels === 1) return { width, height, codes: greyToRgb(codes) };
  const conversion = icc && (await conversionOf(icc, 1));
  const wide = codes instanceof Uint16Array ? codes : widen(codes);
  const grey = converted(wide, channels, colours => {
    if (conversion?.channels === 1) lookUp(colours, conversion.table);
    return colours;
  });
  return { width, height, codes: greyToRgb(isWide(facts) ? grey : narrow(grey)) };
}

/** 16-bit colour: converted by the colour engine itself, since the picture library goes by way of another space. */
async function decodeColour16(path: string, opening: Opening, icc: Buffer | undefined): Promise<Pixels> {
  const { codes, width, height, channels } = await asTheyAre(path, opening, 'rgb16', 'ushort');
  if (channels !== 3 && channels !== 4) throw new PictureError(`has ${channels} channels`);
  const conversion = icc && (await conversionOf(icc, 3));
  const convert = (colours: Uint16Array) =>
    conversion?.channels === 3 ? conversion.convert(colours) : colours;
  return { width, height, codes: converted(codes as Uint16Array, channels, convert) };
}

async function decodeOpened(path: string, opening: Opening, facts: PictureFacts): Promise<Pixels> {
  const metadata = await sharp(path, openOptions).metadata();
  const { icc, space } = metadata;
  if (facts.grey) return decodeGrey(path, opening, facts, metadata);
  if (facts.bits === 16 && space !== 'cmyk') return decodeColour16(path, opening, icc);
  if (icc && space !== 'cmyk') await conversionFits(icc);
  let pipeline = sharp(path, opening).autoOrient().flatten({ background: '#fff' });
  if (facts.bits === 16) pipeline = pipeline.toColourspace('rgb16');
  else pipeline = pipeline.toColourspace('srgb');
  const { data, info } = await pipeline
    .raw({ depth: facts.bits === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== 3) throw new PictureError(`has ${info.channels} channels`);
  return { codes: facts.bits === 16 ? as16(data) : data, width: info.width, height: info.height };
}

/** Of these what comes before and after a broken place can be read; of others nothing that could be relied on. */
const readsOn = new Set(['image/jpeg', 'image/tiff']);

/** Some cameras leave a few bytes before the end of their JPEGs. */
const FEW = 64;

/** What the picture library says of broken data, in a photographer's words; null where it is nothing that shows. */
function damageFrom(said: string): string | null {
  const extra = /(\d+) extraneous bytes before marker 0xd9/.exec(said);
  if (extra && Number(extra[1]) <= FEW) return null;
  if (/premature end of JPEG|not enough data|bad seek/i.test(said)) return 'the file ends too early';
  return 'its picture data is broken in places';
}

/**
 * Decodes a whole file: EXIF orientation applied, the embedded profile converted to sRGB, alpha laid on
 * white. 16-bit files keep 16 bits. Damaged data is decoded as far as it goes, and said. Throws a PictureError where
 * nothing can be read, or where the profile does not fit.
 */
export async function decodePicture(path: string, facts: PictureFacts): Promise<Decoded> {
  // JPEG data may be broken with nothing but a warning.
  const failOn = facts.mediaType === 'image/jpeg' ? 'warning' : 'error';
  try {
    return { ...(await decodeOpened(path, { ...openOptions, failOn }, facts)), damage: null };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    const refused = new PictureError('is damaged: its picture data cannot be read to the end');
    if (!readsOn.has(facts.mediaType)) throw refused;
    const damage = damageFrom(String(error));
    try {
      return { ...(await decodeOpened(path, { ...openOptions, failOn: 'none' }, facts)), damage };
    } catch {
      throw refused;
    }
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
