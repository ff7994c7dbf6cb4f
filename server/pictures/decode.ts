import { halve } from '../../core/kernels/halve';
import sharp, { type Metadata, type SharpOptions } from 'sharp';
import {
  codesOfFloats,
  greyToRgb,
  layOnWhite,
  lookUp,
  narrow,
  splitAlpha,
} from '../../core/kernels/profile-codes';
import { conversionFits, conversionOf } from './colour-engine';
import { openOptions, PictureError } from './bounds';
import { type PictureFacts } from './inspect';
import { readerOf } from './readers';
import type { Laid, Reader } from './readers/define';

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
  space: 'grey16' | 'b-w' | 'rgb16' | 'srgb',
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

/** The picture of the codes of a file, by its profile where it has one. */
async function pictureOf(laid: Laid, icc: Buffer | null, facts: PictureFacts): Promise<Pixels> {
  const { width, height, channels, codes } = laid;
  const grey = channels <= 2;
  if (!icc && channels === 1) return { width, height, codes: greyToRgb(codes) };
  if (!icc && channels === 3) return { width, height, codes };
  const conversion = icc && (await conversionOf(icc, grey ? 1 : 3));
  const wide = codes instanceof Uint16Array ? codes : widen(codes);
  const made = converted(wide, channels, colours => {
    if (conversion?.channels === 3) return conversion.convert(colours);
    if (conversion?.channels === 1) lookUp(colours, conversion.table);
    return colours;
  });
  const asKept = isWide(facts) ? made : narrow(made);
  return { width, height, codes: grey ? greyToRgb(asKept) : asKept };
}

const few = (channels: number): Laid['channels'] => {
  if (channels < 1 || channels > 4) throw new PictureError(`has ${channels} channels`);

  return channels as Laid['channels'];
};

/**
 * The codes of a TIFF whose numbers are floats, or whole ones of 32 bits: of floats black is 0 and white 1, what lies beyond is cut. Without a
 * profile they are linear light, as programs that write them mean it.
 */
async function deep(path: string, opening: Opening, { space, depth, icc }: Metadata): Promise<Laid> {
  const isFloat = depth === 'float' || depth === 'double';
  const colours = space === 'b-w' ? 'b-w' : isFloat ? 'scrgb' : 'rgb16';
  const { data, info } = await sharp(path, { ...opening, ignoreIcc: true })
    .autoOrient()
    .toColourspace(colours)
    .raw({ depth: isFloat ? 'float' : colours === 'b-w' ? 'uint' : 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const channels = few(info.channels);
  if (colours === 'rgb16') return { width, height, channels, codes: as16(data) };
  const numbers = isFloat
    ? new Float32Array(data.buffer, data.byteOffset, data.length / 4)
    : new Uint32Array(data.buffer, data.byteOffset, data.length / 4);
  const codes = isFloat
    ? codesOfFloats(numbers, channels, icc === undefined)
    : Uint16Array.from(numbers, v => Math.round(v / 65537));
  return { width, height, channels, codes };
}

async function decodeOpened(path: string, opening: Opening, facts: PictureFacts): Promise<Pixels> {
  const metadata = await sharp(path, { ...openOptions, page: opening.page }).metadata();
  const { icc = null, space, depth, hasAlpha } = metadata;
  if (!['uchar', 'ushort'].includes(depth)) return pictureOf(await deep(path, opening, metadata), icc, facts);
  if (facts.grey) {
    // In 8 bits of grey the picture library drops the alpha.
    const { codes, ...info } = await (facts.bits === 16 || hasAlpha
      ? asTheyAre(path, opening, 'grey16', 'ushort')
      : asTheyAre(path, opening, 'b-w', 'uchar'));
    if (info.channels > 2) throw new PictureError(`has ${info.channels} channels`);
    return pictureOf({ ...info, channels: few(info.channels), codes }, icc, facts);
  }
  // Converted by the colour engine itself, since the picture library goes by way of another space.
  // What is clear is laid on white here too: the library cuts what lies between two codes.
  if ((facts.bits === 16 || hasAlpha) && space !== 'cmyk') {
    const { codes, ...info } = await (facts.bits === 16
      ? asTheyAre(path, opening, 'rgb16', 'ushort')
      : asTheyAre(path, opening, 'srgb', 'uchar'));
    if (info.channels < 3) throw new PictureError(`has ${info.channels} channels`);
    return pictureOf({ ...info, channels: few(info.channels), codes }, icc, facts);
  }
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

/** A file that a codec of its own reads. */
async function decodeByReader(reader: Reader, path: string, facts: PictureFacts): Promise<Pixels> {
  const { icc } = facts.profile === null ? { icc: null } : await reader.head(path);
  const laid = await reader.read(path);
  if (laid.width !== facts.width || laid.height !== facts.height) {
    throw new PictureError('is damaged: its picture is not as large as its head says');
  }
  return pictureOf(laid, icc, facts);
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
  const reader = readerOf(facts.mediaType);
  // JPEG data may be broken with nothing but a warning.
  const failOn = facts.mediaType === 'image/jpeg' ? 'warning' : 'error';
  const { page } = facts;
  try {
    const read = reader
      ? decodeByReader(reader, path, facts)
      : decodeOpened(path, { ...openOptions, failOn, page }, facts);
    return { ...(await read), damage: null };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    const refused = new PictureError('is damaged: its picture data cannot be read to the end');
    if (!readsOn.has(facts.mediaType)) throw refused;
    const damage = damageFrom(String(error));
    try {
      return { ...(await decodeOpened(path, { ...openOptions, failOn: 'none', page }, facts)), damage };
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
