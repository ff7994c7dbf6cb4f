import sharp from 'sharp';
import { z } from 'zod';
import { luminanceOf8, luminanceOf16 } from '../../core/kernels/luminance';
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

let srgb: Promise<Buffer> | undefined;

/** The sRGB profile that ships with the picture library. */
function srgbProfile(): Promise<Buffer> {
  srgb ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
    .withIccProfile('srgb')
    .jpeg()
    .toBuffer()
    .then(file => sharp(file).metadata())
    .then(({ icc }) => icc!);
  return srgb;
}

const greyProfile = makeGreyProfile();

/**
 * Encodes rendered pixels as a file with its profile embedded. In the grey profile a pixel is its
 * luminance.
 * @param codes RGB, 8-bit or 16-bit codes as the settings' bits say
 */
export async function encodePicture(
  codes: Uint8Array | Uint16Array,
  width: number,
  height: number,
  settings: SendOutSettings,
): Promise<Buffer> {
  const grey = settings.profile === 'grey';
  const wide = codes instanceof Uint16Array;
  const samples = !grey ? codes : wide ? luminanceOf16(codes) : luminanceOf8(codes);
  const picture = sharp(samples, { raw: { width, height, channels: grey ? 1 : 3 } }).toColourspace(
    grey ? (wide ? 'grey16' : 'b-w') : wide ? 'rgb16' : 'srgb',
  );
  if (settings.format === 'jpeg') {
    picture.jpeg({
      quality: settings.quality,
      chromaSubsampling: settings.quality >= 90 ? '4:4:4' : '4:2:0',
    });
  } else if (settings.format === 'png') picture.png({ compressionLevel: 6 });
  else picture.tiff({ compression: 'lzw', predictor: 'horizontal' });
  const file = await picture.toBuffer();
  return embedProfile(file, settings.format, grey ? greyProfile : await srgbProfile());
}
