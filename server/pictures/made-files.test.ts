import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode as decodePng } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { pageEntries, tiffOf } from '../testing/dng';
import { decodePicture, isWide } from './decode';
import { inspect, pagesIn } from './inspect';

/** Files of all kinds, made by other programs, compared with what independent ones read from them (see made/make.sh). */

const folder = new URL('../testing/made/', import.meta.url).pathname;
const files = readdirSync(folder).filter(name => /\.(heic|jxl|jp2|j2k|gif|bmp|tif|dng)$/.test(name));

/** A picture on white, in codes of 8 bits with what lies between; read by a library that the application does not read with. */
function reference(path: string) {
  const { data, width, height, channels, depth } = decodePng(readFileSync(path));
  const most = 2 ** depth - 1;
  const codes = new Float64Array(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    const alpha = channels % 2 ? 1 : data[(i + 1) * channels - 1] / most;
    for (let k = 0; k < 3; k++) {
      const v = data[i * channels + (channels > 2 ? k : 0)] / most;
      codes[i * 3 + k] = 255 * (v * alpha + 1 - alpha);
    }
  }
  return { codes, width, height };
}

/** The mean and the largest difference of a page of a file from a picture, in codes of 8 bits. */
async function differences(name: string, page: number, png: string) {
  const facts = await inspect(join(folder, name), page);
  const { codes, width, height, damage } = await decodePicture(join(folder, name), facts);
  const wanted = reference(join(folder, png));
  expect(damage).toBeNull();
  expect([width, height]).toEqual([wanted.width, wanted.height]);
  expect([facts.width, facts.height]).toEqual([width, height]);
  expect(codes.length).toBe(width * height * 3);
  expect(codes).toBeInstanceOf(isWide(facts) ? Uint16Array : Uint8Array);
  const scale = codes instanceof Uint16Array ? 257 : 1;
  let [sum, most] = [0, 0];
  for (let i = 0; i < codes.length; i++) {
    const off = Math.abs(codes[i] / scale - wanted.codes[i]);
    sum += off;
    most = Math.max(most, off);
  }
  return { mean: sum / codes.length, most };
}

/** How far one may be off, in the mean and at most: by nothing, by rounding, or by what a codec leaves open. */
const allowed: readonly (readonly [RegExp, number, number])[] = [
  // Blocks that were packed strongly are smoothed in another way, and colour at half the size is made large in another.
  [/^poor\.heic$/, 3, 24],
  [/^plain\.heic$/, 0.7, 6],
  [/\.heic$/, 0.3, 3.01],
  // The reference itself has 8 bits.
  [/^(boxed|good|poor|odd|progressive)\.jxl$/, 0.26, 1.01],
  [/^(clear)\./, 0.26, 0.53],
  // A table of colours in 16 bits.
  [/^palette\.tif$/, 0.26, 1],
  // The library rounds its matrix of colours, and its curve.
  [/\.dng$/, 0.1, 1],
  [/\.jxl$/, 0.02, 0.05],
  [/./, 0.01, 0.05],
];

describe('files of all kinds, against independent programs', () => {
  const single = files.filter(name => name !== 'pages.tif' && name !== 'clear.jp2');

  it.each(single)('%s', async name => {
    const [page] = await pagesIn(join(folder, name));
    const { mean, most } = await differences(name, page, `${name}.png`);
    const [, meanAllowed, mostAllowed] = allowed.find(([of]) => of.test(name))!;
    expect(mean).toBeLessThan(meanAllowed);
    expect(most).toBeLessThan(mostAllowed);
  });

  it('all pages of a TIFF', async () => {
    expect(await pagesIn(join(folder, 'pages.tif'))).toEqual([0, 1, 2]);
    for (const page of [0, 1, 2]) {
      const { mean } = await differences('pages.tif', page, `pages.tif.${page}.png`);
      expect(mean).toBeLessThan(0.01);
      const { part, grey } = await inspect(join(folder, 'pages.tif'), page);
      expect(part).toBe(`page ${page + 1} of 3 in its file, each of them a photograph`);
      expect(grey).toBe(page === 1);
    }
  });

  it('a TIFF of too many pages is refused, with the way out', async () => {
    const page = { entries: pageEntries(1, 1, 8, 1), data: Buffer.from([7]) };
    const path = join(tmpdir(), `pages-${process.pid}.tif`);
    writeFileSync(path, tiffOf(Array.from({ length: 301 }, () => page)));
    await expect(pagesIn(path)).rejects.toThrow(/more than 300 pages: split it/);
    rmSync(path);
  });

  it('JPEG 2000 with alpha is refused, and how it comes in is said', async () => {
    await expect(inspect(join(folder, 'clear.jp2'))).rejects.toThrow(
      /JPEG 2000 file that cannot be read: it has 4 channels.*Save it as a TIFF/,
    );
  });

  it('are at least sixty, of seven kinds', async () => {
    expect(files.length).toBeGreaterThanOrEqual(60);
    const kinds = await Promise.all(
      [...single, 'pages.tif'].map(async name => (await inspect(join(folder, name))).mediaType),
    );
    expect(new Set(kinds)).toEqual(
      new Set([
        'image/heic',
        'image/jxl',
        'image/jp2',
        'image/gif',
        'image/bmp',
        'image/tiff',
        'image/x-raw',
      ]),
    );
  });
});
