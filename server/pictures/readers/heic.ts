import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { embedded } from '../exiftool';
import { reader } from './define';

interface Picture {
  get_width: () => number;
  get_height: () => number;
  display: (
    into: { data: Uint8ClampedArray; width: number; height: number },
    done: (made: unknown) => void,
  ) => void;
  free: () => void;
}
interface Codec {
  ready: Promise<unknown>;
  HeifDecoder: new () => { decode: (bytes: Uint8Array) => Picture[] };
}

const require = createRequire(import.meta.url);
let codec: Codec | undefined;

/** The pictures of a file, the first one first; upright, since that is how the codec gives them. */
async function picturesIn(path: string): Promise<Picture[]> {
  codec ??= require('libheif-js/wasm-bundle') as Codec;
  await codec.ready;
  const found = new codec.HeifDecoder().decode(await readFile(path));
  if (!found.length) throw new Error('there is no picture in it');
  return found;
}

const brands = new Set(['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'mif1', 'msf1']);
const MOST_PROFILE = 16 * 1024 ** 2;

/** What telephones keep: HEVC pictures in 8 bits. */
export const heic = reader({
  name: 'HEIC',
  mediaType: 'image/heic',
  is: first =>
    first.toString('latin1', 4, 8) === 'ftyp' &&
    brands.has(first.toString('latin1', 8, 12)) &&
    !first.toString('latin1', 16, 64).includes('avif'),
  head: async path => {
    const found = await picturesIn(path);
    const [width, height] = [found[0].get_width(), found[0].get_height()];
    const part = found.length > 1 ? `the first of ${found.length} pictures in its file` : null;
    for (const picture of found) picture.free();
    const icc = await embedded(path, 'ICC_Profile', MOST_PROFILE);
    return { width, height, bits: 8, channels: 3, icc, part };
  },
  read: async path => {
    const found = await picturesIn(path);
    const [first] = found;
    const [width, height] = [first.get_width(), first.get_height()];
    const data = new Uint8ClampedArray(width * height * 4);
    const made = await new Promise(done => first.display({ data, width, height }, done));
    for (const picture of found) picture.free();
    if (!made) throw new Error('its data cannot be read');
    return { width, height, channels: 4, codes: new Uint8Array(data.buffer) };
  },
});
