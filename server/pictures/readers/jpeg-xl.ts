import { readFile } from 'node:fs/promises';
import { reader } from './define';

/** What is used of the codec: the picture library's own, as WebAssembly, with what the native one is built without. */
interface Image {
  width: number;
  height: number;
  bands: number;
  format: string;
  getTypeof: (name: string) => number;
  getBlob: (name: string) => Uint8Array;
  getInt: (name: string) => number;
  cast: (format: string) => Image;
  colourspace: (space: string) => Image;
  writeToMemory: () => ArrayBufferView;
  delete: () => void;
}
interface Codec {
  Image: { newFromBuffer: (bytes: Uint8Array) => Image };
  concurrency: (threads: number) => void;
  Cache: { max: (operations: number) => void };
}

let codec: Promise<Codec> | undefined;

async function opened(path: string): Promise<{ image: Image; icc: Buffer | null; pages: number }> {
  codec ??= import('wasm-vips').then(async ({ default: make }) => {
    // eslint-disable-next-line no-restricted-syntax -- no more of it is used than what stands above
    const made = (await make({ dynamicLibraries: ['vips-jxl.wasm'] })) as unknown as Codec;
    made.concurrency(1);
    made.Cache.max(0);
    return made;
  });
  const { Image } = await codec;
  const bytes = await readFile(path);
  let image: Image;
  try {
    image = Image.newFromBuffer(bytes);
  } catch {
    throw new Error('its data is broken');
  }
  if (image.bands > 4) throw new Error(`it has ${image.bands} channels`);
  const icc = image.getTypeof('icc-profile-data') ? Buffer.from(image.getBlob('icc-profile-data')) : null;
  return { image, icc, pages: image.getTypeof('n-pages') ? image.getInt('n-pages') : 1 };
}

const STREAM = Buffer.from([0xff, 0x0a]);
const BOX = Buffer.from([0, 0, 0, 12, 0x4a, 0x58, 0x4c, 0x20]);

export const jpegXl = reader({
  name: 'JPEG XL',
  mediaType: 'image/jxl',
  is: first => first.subarray(0, 2).equals(STREAM) || first.subarray(0, 8).equals(BOX),
  head: async path => {
    const { image, icc, pages } = await opened(path);
    const { width, height, bands, format } = image;
    image.delete();
    return {
      width,
      height,
      bits: format === 'uchar' ? 8 : 16,

      channels: bands as 1 | 2 | 3 | 4,
      icc,
      part: pages > 1 ? `the first of ${pages} pictures in its file` : null,
    };
  },
  read: async path => {
    const { image } = await opened(path);
    const { width, height, bands, format } = image;
    const ready =
      format === 'uchar' || format === 'ushort' ? image : image.colourspace('rgb16').cast('ushort');
    // A view of the codec's own memory, in numbers as wide as the picture's.
    const { buffer, byteOffset, byteLength } = ready.writeToMemory();
    const bytes = new Uint8Array(buffer, byteOffset, byteLength).slice();
    const codes = format === 'uchar' ? bytes : new Uint16Array(bytes.buffer);
    image.delete();

    return { width, height, channels: bands as 1 | 2 | 3 | 4, codes };
  },
});
