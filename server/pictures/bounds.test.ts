import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { refusePages, refuseTooLarge } from './bounds';
import { inspect } from './inspect';

/** Files that say little and would take much. */

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-bounds-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const inspected = async (name: string, bytes: Buffer) => {
  const path = join(folder, name);
  await writeFile(path, bytes);
  return inspect(path);
};

describe('what a file may take', () => {
  it('is held against its size, and that of all its pages together', () => {
    expect(() => refuseTooLarge(20_000, 10_000)).not.toThrow();
    expect(() => refuseTooLarge(20_001, 10_000)).toThrow('megapixels');
    expect(() => refuseTooLarge(30_001, 10)).toThrow('longer than');
    const page = { width: 10_000, height: 10_000 };
    expect(() => refusePages(Array(15).fill(page) as (typeof page)[])).not.toThrow();
    expect(() => refusePages(Array(16).fill(page) as (typeof page)[])).toThrow('16 pages of 1600 megapixels');
  });

  it('a JPEG 2000 is asked where its picture is, not where a marker stands first', async () => {
    const made = await readFile(fileURLToPath(new URL('../testing/made/lossless.jp2', import.meta.url)));
    const real = await inspected('real.jp2', made);
    // A comment before the picture, in which a marker tells of a small one.
    const decoy = Buffer.alloc(8 + 60);
    decoy.writeUInt32BE(decoy.length, 0);
    decoy.write('free', 4, 'latin1');
    Buffer.from([0xff, 0x4f, 0xff, 0x51]).copy(decoy, 8);
    decoy.writeUInt32BE(3, 16);
    decoy.writeUInt32BE(3, 20);
    const at = made.indexOf('jp2c') - 4;
    const lying = Buffer.concat([made.subarray(0, at), decoy, made.subarray(at)]);
    expect(await inspected('lying.jp2', lying)).toEqual(real);
  });

  it.each([
    ['a drawing', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>')],
    ['a portable map', Buffer.from('P6 2 2 255\n'.padEnd(40, 'a'))],
    [
      'a Radiance picture',
      Buffer.from('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 1 +X 1\nabcd'.padEnd(80, '\0')),
    ],
  ])('%s is not read by the picture library, whatever it is called', async (_, bytes) => {
    await writeFile(join(folder, 'picture.jpg'), bytes);
    await expect(sharp(join(folder, 'picture.jpg')).metadata()).rejects.toThrow();
    await expect(inspect(join(folder, 'picture.jpg'))).rejects.toThrow();
  });

  it('drawings of our own are drawn, from memory', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="7"><rect width="9" height="7"/></svg>';
    const { width, height } = await sharp(Buffer.from(svg)).metadata();
    expect([width, height]).toEqual([9, 7]);
  });
});
