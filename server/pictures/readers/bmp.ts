import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { reader } from './define';

const require = createRequire(import.meta.url);

/** Where the head of a BMP keeps its size. Source: the file format's BITMAPINFOHEADER. */
const [WIDTH_AT, HEIGHT_AT, HEAD] = [18, 22, 54];

async function sizeOf(path: string) {
  const bytes = await readFile(path);
  if (bytes.length < HEAD) throw new Error('the file ends in its head');
  return { bytes, width: bytes.readInt32LE(WIDTH_AT), height: Math.abs(bytes.readInt32LE(HEIGHT_AT)) };
}

export const bmp = reader({
  name: 'BMP',
  mediaType: 'image/bmp',
  is: first => first.toString('latin1', 0, 2) === 'BM' && first.readUInt32LE(14) >= 40,
  head: async path => {
    const { width, height } = await sizeOf(path);
    return { width, height, bits: 8, channels: 3, icc: null, part: null };
  },
  read: async path => {
    const { bytes, width, height } = await sizeOf(path);
    const { decode } = require('@cwasm/nsbmp') as {
      decode: (bytes: Uint8Array) => { data: Uint8ClampedArray };
    };
    const { data } = decode(bytes);
    const codes = new Uint8Array(width * height * 3);
    // Its fourth channel is seldom an alpha: programs leave it empty.
    for (let i = 0; i < width * height; i++) {
      for (let k = 0; k < 3; k++) codes[i * 3 + k] = data[i * 4 + k];
    }
    return { width, height, channels: 3, codes };
  },
});
