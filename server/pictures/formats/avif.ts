import sharp, { type Sharp } from 'sharp';
import { defineFormat, exifResolution, subsamplingOf } from './define';
import { intoPng } from './png';

/** Pixels with a profile that the library keeps as it is: their numbers do not change. */
async function tagged(picture: Sharp, icc: Buffer): Promise<Sharp> {
  const png = intoPng(await picture.png({ compressionLevel: 0 }).toBuffer(), icc);
  return sharp(png, { limitInputPixels: false }).keepIccProfile();
}

export const avif = defineFormat({
  name: 'avif',
  title: 'an AVIF',
  endings: ['avif'],
  mediaType: 'image/avif',
  bits: [8, 10],
  profiles: ['srgb', 'display-p3', 'wide'],
  quality: true,
  chroma: true,
  resolution: exifResolution,
  encode: async (picture, { quality, chroma, bits, profile }, icc) => {
    // From sRGB to sRGB nothing changes either, and it is shorter.
    const ready = profile === 'srgb' ? picture.withIccProfile('srgb') : await tagged(picture, icc);
    return ready
      .avif({
        quality,
        chromaSubsampling: subsamplingOf(chroma),
        effort: 3,
        bitdepth: bits === 10 ? 10 : 8,
      })
      .toBuffer();
  },
});
