import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import sharp from 'sharp';
import { encode } from '../../../core/colour/srgb';
import { lookUp } from '../../../core/kernels/profile-codes';
import { embedded, exiftool } from '../exiftool';
import { openOptions, refuseTooLarge } from '../bounds';
import { directoriesOf, isRawTiff } from '../tiff-directories';
import { reader, type Laid } from './define';

/** The files of cameras before they are pictures: developed here, or, of kinds that cannot be, the preview that the camera put in. */

interface Developed {
  width: number;
  height: number;
  colors: number;
  bits: number;
  data: Uint8Array | Uint16Array;
}
interface Library {
  LibRaw: new () => {
    open: (bytes: Uint8Array, settings: object) => void;
    metadata: (whole: boolean) => { width: number; height: number };
    rawImageData: () => unknown;
    imageData: () => Developed;
  };
}

const require = createRequire(import.meta.url);
let compiled: Promise<WebAssembly.Module> | undefined;

/** A library of its own for each file: what one has needed of memory is given back with it. */
async function libraryOf(): Promise<Library> {
  const glue = require.resolve('libraw-wasm/dist/libraw.js');
  compiled ??= readFile(glue.replace(/\.js$/, '.wasm')).then(bytes => WebAssembly.compile(bytes));
  const module = await compiled;
  const { default: make } = await import('libraw-wasm/dist/libraw.js');
  const quiet = () => undefined;
  const made = await make({
    print: quiet,
    printErr: quiet,
    instantiateWasm: (
      imports: WebAssembly.Imports,
      done: (made: WebAssembly.Instance, of: WebAssembly.Module) => void,
    ) => {
      void WebAssembly.instantiate(module, imports).then(made => done(made, module));
      return {};
    },
  });

  return made as Library;
}

/** The camera's own white, all else left as the sensor saw it, in linear light of sRGB. The library takes six numbers for its curve. */
const SETTINGS = {
  outputBps: 16,
  outputColor: 1,
  useCameraWb: true,
  noAutoBright: true,
  gamm: [1, 1, 0, 0, 0, 0],
};

/** Linear 16-bit codes to those of sRGB. */
let toSrgb: Uint16Array | undefined;
const table = () =>
  (toSrgb ??= Uint16Array.from({ length: 65536 }, (_, i) => Math.round(encode(i / 65535) * 65535)));

async function opened(path: string) {
  const { LibRaw } = await libraryOf();
  const raw = new LibRaw();
  try {
    raw.open(new Uint8Array(await readFile(path)), SETTINGS);
  } catch {
    throw new Error('its camera is not known here');
  }
  return raw;
}

const marks: readonly (readonly [number, string])[] = [
  [0, 'FUJIFILMCCD-RAW'],
  [0, 'IIRO'],
  [0, 'IIRS'],
  [0, 'MMOR'],
  [0, 'IIU\0'],
  [0, '\0MRM'],
  [0, 'FOVb'],
  [4, 'ftypcrx '],
];

/** Whether a file is a camera's raw one. */
async function isRaw(first: Buffer, path: string): Promise<boolean> {
  if (marks.some(([at, mark]) => first.toString('latin1', at, at + mark.length) === mark)) return true;
  return isRawTiff(await directoriesOf(path), first);
}

export const raw = reader({
  name: 'raw',
  mediaType: 'image/x-raw',
  is: isRaw,
  head: async path => {
    const file = await opened(path);
    // Upright already.
    const { width, height } = file.metadata(true);
    refuseTooLarge(width, height);
    // That it can be read to the end is known once it has been.
    try {
      file.rawImageData();
    } catch {
      throw new Error('its raw data is packed in a way that is not read here');
    }
    return {
      width,
      height,
      bits: 16,
      channels: 3,
      icc: null,
      part: 'developed from the camera’s raw data, with the camera’s own white and nothing else',
    };
  },
  read: async path => {
    const file = await opened(path);
    const { width: wide, height: high } = file.metadata(true);
    refuseTooLarge(wide, high);
    let made: Developed;
    try {
      made = file.imageData();
    } catch {
      throw new Error('its raw data cannot be read to the end');
    }
    const { width, height, colors, bits, data } = made;
    if (bits !== 16 || (colors !== 1 && colors !== 3)) throw new Error(`it has ${colors} colours`);
    const codes = new Uint16Array(width * height * 3);
    if (colors === 3) codes.set(data);
    else for (let i = 0; i < codes.length; i++) codes[i] = data[Math.floor(i / 3)];
    lookUp(codes, table());
    return { width, height, channels: 3, codes };
  },
});

const MOST_PREVIEW = 128 * 1024 ** 2;
const JPEG = Buffer.from([0xff, 0xd8, 0xff]);
const PREVIEWS = ['JpgFromRaw', 'PreviewImage', 'OtherImage'];

/** The largest picture that a camera put into its raw file, and how it is to be turned where it does not say so itself. */
async function previewIn(path: string): Promise<{ jpeg: Buffer; icc: Buffer | null; turn: number }> {
  let best: { jpeg: Buffer; icc: Buffer | null; turn: number; pixels: number } | null = null;
  const said = await exiftool(['-s3', '-n', '-IFD0:Orientation', path]).catch(() => Buffer.alloc(0));
  for (const name of PREVIEWS) {
    const jpeg = await embedded(path, name, MOST_PREVIEW);
    // A preview is a JPEG, whatever stands in its place.
    if (!jpeg?.subarray(0, 3).equals(JPEG)) continue;
    const facts = await sharp(jpeg, openOptions)
      .metadata()
      .catch(() => null);
    if (!facts) continue;
    refuseTooLarge(facts.width, facts.height);
    const pixels = facts.width * facts.height;
    if (best && best.pixels >= pixels) continue;
    best = {
      jpeg,
      pixels,
      icc: facts.icc ?? null,
      turn: facts.orientation ?? (Number(said.toString()) || 1),
    };
  }
  if (!best) throw new Error('its raw data cannot be read here, and there is no preview in it');
  return best;
}

/** Degrees and mirroring of an EXIF orientation. Source: Exif 2.32, tag 274. */
const turns: Record<number, { degrees: number; mirrored: boolean }> = {
  2: { degrees: 0, mirrored: true },
  3: { degrees: 180, mirrored: false },
  4: { degrees: 180, mirrored: true },
  5: { degrees: 270, mirrored: true },
  6: { degrees: 90, mirrored: false },
  7: { degrees: 90, mirrored: true },
  8: { degrees: 270, mirrored: false },
};

async function previewOf(path: string): Promise<Laid & { icc: Buffer | null }> {
  const { jpeg, icc, turn } = await previewIn(path);
  const { degrees, mirrored } = turns[turn] ?? { degrees: 0, mirrored: false };
  // Mirrored first, as the orientations are defined.
  const flipped = sharp(jpeg, { ...openOptions, ignoreIcc: true })
    .flop(mirrored)
    .toColourspace('srgb')
    .removeAlpha();
  const { data: flat, info } = await flipped.raw().toBuffer({ resolveWithObject: true });
  const { data, info: upright } = await sharp(flat, {
    raw: { width: info.width, height: info.height, channels: 3 },
  })
    .rotate(degrees)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: upright.width, height: upright.height, channels: 3, codes: data, icc };
}

export const rawPreview = reader({
  name: 'raw preview',
  mediaType: 'image/x-raw-preview',
  is: isRaw,
  head: async path => {
    const { width, height, icc } = await previewOf(path);
    const part =
      'the preview that the camera put into its raw file, since its raw data cannot be read here. For all of it, develop it where it can, and bring in a 16-bit TIFF';
    return { width, height, bits: 8, channels: 3, icc, part };
  },
  read: previewOf,
});
