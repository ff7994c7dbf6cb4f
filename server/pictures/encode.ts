import sharp from 'sharp';
import { z } from 'zod';
import { greyOf } from '../../core/kernels/luminance';
import { embedProfile } from './embed';
import { makeGreyProfile } from './icc';
import { LONGEST_EDGE } from './limits';

/** How a photograph is sent out. */
export const sendOutSettings = z
  .strictObject({
    format: z.enum(['jpeg', 'png', 'tiff']).default('jpeg'),
    bits: z.union([z.literal(8), z.literal(16)]).default(8),
    profile: z.enum(['srgb', 'grey']).default('srgb'),
    /** JPEG only. */
    quality: z.int().min(1).max(100).default(90),
    /** The long edge in pixels, never enlarged; null is full size. */
    longEdge: z.int().min(16).max(LONGEST_EDGE).nullable().default(null),
  })
  .refine(s => s.format !== 'jpeg' || s.bits === 8, { message: 'a JPEG has 8 bits', path: ['bits'] });
export type SendOutSettings = z.infer<typeof sendOutSettings>;

export type ProfileName = 'srgb' | 'display-p3' | 'grey';
export type FileFormat = 'jpeg' | 'png' | 'tiff' | 'webp' | 'avif';

/** What a finished file is like. */
export interface FileSettings {
  format: FileFormat;
  bits: 8 | 16;
  profile: ProfileName;
  quality: number;
}

/** Quality from which colour is kept at full size in a JPEG. */
export const chromaOf = (quality: number) => (quality >= 90 ? '4:4:4' : '4:2:0');

/** Why a file cannot be like that; null where it can. */
export function impossible({ format, bits, profile }: FileSettings): string | null {
  const name = { jpeg: 'a JPEG', png: 'a PNG', tiff: 'a TIFF', webp: 'a WebP', avif: 'an AVIF' }[format];
  if (bits === 16 && format !== 'png' && format !== 'tiff') return `${name} has 8 bits`;
  if (profile === 'grey' && (format === 'webp' || format === 'avif')) return `${name} has no grey profile`;
  if (profile === 'display-p3' && format === 'avif') return `${name} is written in sRGB`;
  return null;
}

const shipped = new Map<string, Promise<Buffer>>();

/** A profile that ships with the picture library. */
function shippedProfile(name: 'srgb' | 'p3'): Promise<Buffer> {
  let profile = shipped.get(name);
  if (!profile) {
    profile = sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
      .withIccProfile(name)
      .jpeg()
      .toBuffer()
      .then(file => sharp(file).metadata())
      .then(({ icc }) => icc!);
    shipped.set(name, profile);
  }
  return profile;
}

let greyProfile: Buffer | undefined;

/** The bytes of the profile that a file carries. */
export async function profileBytes(profile: ProfileName): Promise<Buffer> {
  if (profile === 'grey') return (greyProfile ??= makeGreyProfile());
  return shippedProfile(profile === 'srgb' ? 'srgb' : 'p3');
}

/**
 * Encodes rendered pixels as a file with its profile embedded. In the grey profile a pixel is its
 * luminance.
 * @param codes RGB in the profile's own primaries, 8-bit or 16-bit codes as the settings' bits say
 */
export async function encodePicture(
  codes: Uint8Array | Uint16Array,
  width: number,
  height: number,
  { format, profile, quality }: FileSettings,
): Promise<Buffer> {
  const grey = profile === 'grey';
  const wide = codes instanceof Uint16Array;
  const samples = grey ? greyOf(codes) : codes;
  const picture = sharp(samples, { raw: { width, height, channels: grey ? 1 : 3 } }).toColourspace(
    grey ? (wide ? 'grey16' : 'b-w') : wide ? 'rgb16' : 'srgb',
  );
  const icc = await profileBytes(profile);
  switch (format) {
    case 'jpeg':
      picture.jpeg({ quality, chromaSubsampling: chromaOf(quality) });
      break;
    case 'png':
      picture.png({ compressionLevel: 6 });
      break;
    case 'tiff':
      picture.tiff({ compression: 'lzw', predictor: 'horizontal' });
      break;
    case 'webp':
      picture.webp({ quality });
      break;
    case 'avif':
      // Its profile is put in by the library: from sRGB to sRGB nothing changes.
      return picture
        .withIccProfile('srgb')
        .avif({ quality, chromaSubsampling: chromaOf(quality), effort: 3 })
        .toBuffer();
  }
  return embedProfile(await picture.toBuffer(), format, icc);
}
