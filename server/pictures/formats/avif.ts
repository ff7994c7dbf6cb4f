import { chromaOf, defineFormat } from './define';

export const avif = defineFormat({
  name: 'avif',
  title: 'an AVIF',
  endings: ['avif'],
  mediaType: 'image/avif',
  bits: [8],
  profiles: ['srgb'],
  quality: true,
  // Its profile is put in by the library: from sRGB to sRGB nothing changes.
  encode: (picture, { quality }) =>
    picture
      .withIccProfile('srgb')
      .avif({ quality, chromaSubsampling: chromaOf(quality), effort: 3 })
      .toBuffer(),
});
