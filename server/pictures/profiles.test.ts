import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { clampRgb, converter, type Color } from 'culori';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { encode } from '../../core/colour/srgb';
import { greyProfiles, inkProfile, wideProfiles } from '../testing/profiles';
import { decodePicture } from './decode';
import { profileBytes } from './encode';
import { formatNamed } from './formats';
import { inspect } from './inspect';

/**
 * Files made of every format, depth, kind of profile, with and without alpha, in grey and in colour: what is taken in of
 * each is what an independent conversion says.
 */

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-profiles-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const SIDE = 16;
let count = 0;

/** A file of patches side by side: values 0..1, `channels` numbers a patch, the last of an even number being alpha. */
async function fileOf(
  format: 'png' | 'tiff' | 'jpeg',
  bits: 8 | 16,
  patches: readonly (readonly number[])[],
  icc: Buffer | null,
): Promise<string> {
  const channels = patches[0].length as 1 | 2 | 3 | 4;
  const width = patches.length * SIDE;
  const most = bits === 8 ? 255 : 65535;
  const values = Array.from({ length: width * SIDE * channels }, (_, i) => {
    const patch = patches[Math.floor((Math.floor(i / channels) % width) / SIDE)];
    return Math.round(patch[i % channels] * most);
  });
  const codes = bits === 8 ? Uint8Array.from(values) : Uint16Array.from(values);
  const grey = channels <= 2;
  let picture = sharp(codes, { raw: { width, height: SIDE, channels } }).toColourspace(
    grey ? (bits === 16 ? 'grey16' : 'b-w') : bits === 16 ? 'rgb16' : 'srgb',
  );
  if (format === 'png') picture = picture.png();
  else if (format === 'tiff') picture = picture.tiff({ compression: 'none' });
  else picture = picture.jpeg({ quality: 100, chromaSubsampling: '4:4:4' });
  const plain = await picture.toBuffer();
  const path = join(folder, `${count++}.${format}`);
  await writeFile(path, icc ? formatNamed(format).embed!(plain, icc) : plain);
  return path;
}

/** The patches of a file as they are taken in, encoded sRGB 0..1. */
async function taken(path: string): Promise<number[][]> {
  const facts = await inspect(path);
  const { codes, width } = await decodePicture(path, facts);
  const most = codes instanceof Uint16Array ? 65535 : 255;
  return Array.from({ length: width / SIDE }, (_, i) => {
    const at = ((SIDE / 2) * width + i * SIDE + SIDE / 2) * 3;
    return [...codes.subarray(at, at + 3)].map(v => v / most);
  });
}

const onWhite = (v: number, alpha: number) => 1 + (v - 1) * alpha;
/** Half a code of 8 bits, the rounding of an 8-bit file, the losses of a JPEG: in codes of 255. */
const near = (format: string, bits: 8 | 16) => (format === 'jpeg' ? 3 : bits === 8 ? 1.01 : 0.5) / 255;

const kinds = [
  ['png', 8, false],
  ['png', 16, false],
  ['png', 8, true],
  ['png', 16, true],
  ['tiff', 8, false],
  ['tiff', 16, false],
  ['tiff', 16, true],
  ['jpeg', 8, false],
] as const;

describe.each(kinds)('%s of %i bits, with alpha: %s', (format, bits, alpha) => {
  const tones = [0, 0.03, 0.1, 0.25, 0.5, 0.75, 0.9, 1];
  const alphaAt = (i: number) => (alpha ? [1, 0.5, 0, 0.8][i % 4] : 1);
  const quantised = (v: number) => Math.round(v * (bits === 8 ? 255 : 65535)) / (bits === 8 ? 255 : 65535);

  it.each([
    ...greyProfiles,
    { name: 'none', icc: null, luminance: null },
    { name: 'one for colour', icc: 'srgb' as const, luminance: null },
  ])('grey, profile: $name', async ({ icc, luminance }) => {
    const patches = tones.map((v, i) => (alpha ? [v, alphaAt(i)] : [v]));
    const bytes = icc === 'srgb' ? await profileBytes('srgb') : icc;
    const found = await taken(await fileOf(format, bits, patches, bytes));
    tones.forEach((v, i) => {
      const tone = luminance ? encode(Math.min(1, luminance(quantised(v)))) : quantised(v);
      const expected = onWhite(tone, alphaAt(i));
      found[i].forEach(got => expect(Math.abs(got - expected)).toBeLessThan(near(format, bits)));
    });
  });

  const colours = [
    [0.5, 0.5, 0.5],
    [1, 1, 1],
    [0, 0, 0],
    [0.8, 0.3, 0.2],
    [0.2, 0.5, 0.3],
    [0.15, 0.2, 0.6],
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [0.9, 0.85, 0.1],
  ];

  it.each([
    ['none', 'rgb', null],
    ['sRGB', 'rgb', () => profileBytes('srgb')],
    ...wideProfiles.map(({ mode, icc }) => [mode, mode, () => Promise.resolve(icc)] as const),
  ] as const)('colour, profile: %s', async (_name, mode, profile) => {
    const patches = colours.map((c, i) => (alpha ? [...c, alphaAt(i)] : c));
    const found = await taken(await fileOf(format, bits, patches, profile && (await profile())));
    colours.forEach(([r, g, b], i) => {
      const [x, y, z] = [r, g, b].map(quantised);
      const rgb = clampRgb(converter('rgb')({ mode, r: x, g: y, b: z } as Color));
      // A JPEG's own losses grow where a wide gamut is brought into a smaller one; alpha of 8 bits is rounded twice.
      const more = format === 'jpeg' && mode !== 'rgb' ? 3 : alpha && bits === 8 ? 1.5 : 1;
      const tolerance = near(format, bits) * more;
      [rgb.r, rgb.g, rgb.b].forEach((v, k) => {
        const expected = onWhite(v, alphaAt(i));
        expect(Math.abs(found[i][k] - expected), `${[r, g, b]} channel ${k}`).toBeLessThan(tolerance);
      });
    });
  });
});

describe('a profile that does not fit', () => {
  it('is refused with the reason: for grey in a colour file, for inks, broken', async () => {
    const colour = [[0.2, 0.4, 0.6]];
    for (const bits of [8, 16] as const) {
      await expect(taken(await fileOf('tiff', bits, colour, greyProfiles[0].icc))).rejects.toThrow(
        'is in colour, and its profile is for grey',
      );
      await expect(taken(await fileOf('tiff', bits, [[0.5]], inkProfile))).rejects.toThrow(
        /its profile is for CMYK|cannot be read/,
      );
      const broken = Buffer.from(greyProfiles[0].icc);
      broken.fill(0, 36, 60);
      await expect(taken(await fileOf('tiff', bits, [[0.5]], broken))).rejects.toThrow(
        /profile that is broken/,
      );
    }
  });
});
