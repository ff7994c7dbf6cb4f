/** Endings of files that may be photographs that can be read, as patterns see them; the bytes themselves decide. */
export const PICTURE_ENDINGS = [
  'jpg',
  'jpeg',
  'jpe',
  'jfif',
  'png',
  'tif',
  'tiff',
  'webp',
  'avif',
  'gif',
  'bmp',
  'heic',
  'heif',
  'jxl',
  'jp2',
  'j2k',
  'jpf',
  // Raw files of cameras.
  '3fr',
  'arw',
  'cr2',
  'cr3',
  'dng',
  'erf',
  'iiq',
  'kdc',
  'mrw',
  'nef',
  'nrw',
  'orf',
  'pef',
  'raf',
  'raw',
  'rw2',
  'sr2',
  'srw',
  'x3f',
] as const;

/** The kinds of pictures that can be brought in, in words. */
export const PICTURE_KINDS =
  'JPEG, PNG, TIFF, WebP, AVIF, HEIC, JPEG XL, JPEG 2000, GIF, BMP and raw files of cameras';
