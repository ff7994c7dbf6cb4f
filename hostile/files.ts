import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { greyProfiles, inkProfile, wideProfiles } from '../server/testing/profiles';

/** Made files: whole ones, what becomes of them when bytes are broken, and ones that are not what they say. */

/** Numbers in 0..1, the same for a seed. Source: mulberry32, in the public domain. */
export function chances(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const formats = ['jpeg', 'png', 'tiff', 'webp', 'avif'] as const;

async function wholeFiles(): Promise<Buffer[]> {
  const [width, height] = [90, 60];
  const raw = Buffer.from(Array.from({ length: width * height * 3 }, (_, i) => (i * 31 + (i >> 5)) % 256));
  const picture = () => sharp(raw, { raw: { width, height, channels: 3 } });
  const files = formats.flatMap(format => [
    picture().toFormat(format).toBuffer(),
    picture().greyscale().withIccProfile('srgb').toFormat(format).toBuffer(),
  ]);
  files.push(
    picture().jpeg({ progressive: true }).toBuffer(),
    picture()
      .withExif({ IFD0: { Artist: 'Somebody' } })
      .jpeg()
      .toBuffer(),
    picture().toColourspace('rgb16').png().toBuffer(),
    picture().ensureAlpha(0.4).png().toBuffer(),
    picture().toColourspace('cmyk').jpeg().toBuffer(),
  );
  return Promise.all(files);
}

type Break = (file: Buffer, chance: () => number, other: Buffer) => Buffer;
const at = (file: Buffer, chance: () => number) => Math.floor(chance() * file.length);

/** Ways in which bytes are broken. */
export const breaks: Record<string, Break> = {
  cut: (file, chance) => file.subarray(0, at(file, chance)),
  flipped: (file, chance) => {
    const broken = Buffer.from(file);
    for (let i = 0; i < 8; i++) broken[at(file, chance)] ^= 1 << Math.floor(chance() * 8);
    return broken;
  },
  'broken head': (file, chance) => {
    const broken = Buffer.from(file);
    for (let i = 0; i < 6; i++)
      broken[Math.floor(chance() * Math.min(200, file.length))] = Math.floor(chance() * 256);
    return broken;
  },
  spliced: (file, chance, other) =>
    Buffer.concat([file.subarray(0, at(file, chance)), other.subarray(at(other, chance))]),
  filled: (file, chance) => {
    const broken = Buffer.from(file);
    const from = at(file, chance);
    broken.fill(chance() < 0.5 ? 0 : 255, from, Math.min(file.length, from + 64));
    return broken;
  },
};

/** Files of other programs, in the kinds that this one does not write: small, so that what is broken is seldom their pixels alone. */
const others = [
  ...['two.bmp', 'sixteen.bmp', 'palette.bmp', 'odd.bmp', 'lossy.jp2', 'odd.jp2', 'stream.j2k'],
  ...['poor.jxl', 'poor.heic', 'clear.gif', 'fax.tif', 'jpeg.tif', 'mosaic.dng', 'linear.dng'],
];
const madeByOthers = () =>
  Promise.all(others.map(name => readFile(new URL(`../server/testing/made/${name}`, import.meta.url))));

/** A JPEG with a profile as it is given. Source: ICC.1:2022, B.4. */
function withProfile(jpeg: Buffer, icc: Buffer): Buffer {
  const head = Buffer.from('\xff\xe2\0\0ICC_PROFILE\0\x01\x01', 'latin1');
  head.writeUInt16BE(head.length - 2 + icc.length, 2);
  return Buffer.concat([jpeg.subarray(0, 2), head, icc, jpeg.subarray(2)]);
}

/** A PNG that says it is as large as can be, and holds next to nothing. */
function vastPng(width: number, height: number): Buffer {
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
    'base64',
  );
  png.writeUInt32BE(width, 16);
  png.writeUInt32BE(height, 20);
  return png;
}

/** A TIFF whose first directory leads to itself. */
function endlessTiff(): Buffer {
  const file = Buffer.alloc(40);
  file.write('II*\0', 0, 'latin1');
  file.writeUInt32LE(8, 4);
  file.writeUInt16LE(2, 8);
  file.writeUInt16LE(256, 10);
  file.writeUInt16LE(330, 22);
  file.writeUInt16LE(4, 24);
  file.writeUInt32LE(1, 26);
  file.writeUInt32LE(8, 30);
  file.writeUInt32LE(8, 34);
  return file;
}

const strange: [string, Buffer][] = [
  ['nothing', Buffer.alloc(0)],
  ['one byte', Buffer.from([0xff])],
  ['text', Buffer.from('not a picture')],
  [
    'a drawing that asks for a file',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><image href="file:///etc/hostname"/></svg>'),
  ],
  ['a page', Buffer.from('<html><script>alert(1)</script></html>')],
  ['an archive', Buffer.from('504b0304140000000800', 'hex')],
  ['a vast PNG', vastPng(0x7fffffff, 0x7fffffff)],
  ['a wide PNG', vastPng(60_000, 3)],
  ['a PNG of no width', vastPng(0, 10)],
  ['a TIFF without end', endlessTiff()],
  ['a JPEG of its marker alone', Buffer.from([0xff, 0xd8, 0xff, 0xd9])],
];

/** Names that files come under. */
export const names = [
  'a.jpg',
  '../../../../etc/passwd',
  '..\\..\\windows\\system.ini',
  'C:\\pictures\\a.tif',
  '.',
  '..',
  '',
  ' ',
  'a\u0000.jpg',
  '\u202egpj.exe',
  '<b onmouseover="alert(1)">.png',
  "'; DROP TABLE takes; --.webp",
  'ﷺ'.repeat(120),
  `${'é'.repeat(300)}.jpg`,
  '😀'.repeat(150),
  'ŉ.png',
  'con.jpg',
  '%2e%2e%2f.png',
];

/** Made files, each with what it is: some hundred, the same each time. */
export async function madeFiles(seed: number, each: number): Promise<[string, Buffer][]> {
  const chance = chances(seed);
  const whole = await wholeFiles();
  const made: [string, Buffer][] = whole.map((file, i) => [`whole ${i}`, file]);
  const broken = (what: string, files: readonly Buffer[], as = (file: Buffer, _of: number) => file) => {
    files.forEach((file, i) => {
      for (const [name, breaking] of Object.entries(breaks)) {
        for (let n = 0; n < each; n++) {
          const other = files[Math.floor(chance() * files.length)];
          made.push([`${name} ${what} ${i}`, as(breaking(file, chance, other), i)]);
        }
      }
    });
  };
  broken('file', whole);
  broken('file of another program', await madeByOthers());
  const [coloured] = whole;
  const grey = await sharp(coloured).greyscale().jpeg().toBuffer();
  const profiles = [...wideProfiles.map(({ icc }) => icc), inkProfile, greyProfiles[0].icc];
  broken('profile', profiles, (icc, of) => withProfile(of === profiles.length - 1 ? grey : coloured, icc));
  return [...made, ...strange];
}
