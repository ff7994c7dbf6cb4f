import type { Sharp } from 'sharp';
import { MEDIA_TYPE, THUMBNAIL, writeOpenRaster } from '../openraster';
import { defineFormat } from './define';

/** A picture small enough for the thumbnail of a file. */
export const thumbnailOf = (picture: Sharp) =>
  picture.clone().resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true }).png().toBuffer();

/** OpenRaster: the treatment's steps as layers (see render/layered). Of a picture alone it is one layer. */
export const openRaster = defineFormat({
  name: 'layers',
  title: 'an OpenRaster file',
  endings: ['ora'],
  mediaType: MEDIA_TYPE,
  bits: [8],
  profiles: ['srgb'],
  layers: true,
  // The picture library keeps the profile's meaning: pixels without one are sRGB.
  encode: async picture => {
    const { width = 0, height = 0 } = await picture.metadata();
    const png = await picture.clone().png({ compressionLevel: 6 }).toBuffer();
    const layer = { type: 'picture', name: 'Picture', mode: 'normal', opacity: 1, png } as const;
    return writeOpenRaster({
      width,
      height,
      layers: [layer],
      merged: png,
      thumbnail: await thumbnailOf(picture),
    });
  },
});
