import { defineFormat, exifResolution, subsamplingOf } from './define';

export const avif = defineFormat({
  name: 'avif',
  title: 'an AVIF',
  endings: ['avif'],
  mediaType: 'image/avif',
  bits: [8, 10],
  profiles: ['srgb'],
  quality: true,
  chroma: true,
  resolution: exifResolution,
  // Its profile is put in by the library: from sRGB to sRGB nothing changes.
  encode: (picture, { quality, chroma, bits }) =>
    picture
      .withIccProfile('srgb')
      .avif({ quality, chromaSubsampling: subsamplingOf(chroma), effort: 3, bitdepth: bits === 10 ? 10 : 8 })
      .toBuffer(),
});
