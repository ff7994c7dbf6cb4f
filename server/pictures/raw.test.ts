import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { encode } from '../../core/colour/srgb';
import { dng, type RawOptions } from '../testing/dng';
import { decodePicture } from './decode';
import { inspect } from './inspect';

/** Raw files: developed by known numbers, or by the preview that is in them. */

const folder = mkdtempSync(join(tmpdir(), 'raw-'));
afterAll(() => rmSync(folder, { recursive: true }));

let made = 0;
function file(options: RawOptions): string {
  const path = join(folder, `${made++}.dng`);
  writeFileSync(path, dng(options));
  return path;
}

const [width, height] = [64, 48];
/** Even fields, in which a mosaic loses nothing: the left darker than the right. */
const fields = (x: number): readonly [number, number, number] =>
  x < 32 ? [0.05, 0.2, 0.1] : [0.18, 0.4, 0.5];
const at = (x: number) => fields(x);

/** The mean colour of a square of pixels, 16-bit codes. */
function mean(
  { codes, width: across }: { codes: Uint8Array | Uint16Array; width: number },
  x: number,
  y: number,
) {
  const sum = [0, 0, 0];
  for (let j = y - 3; j <= y + 3; j++) {
    for (let i = x - 3; i <= x + 3; i++)
      for (let k = 0; k < 3; k++) sum[k] += codes[(j * across + i) * 3 + k] / 49;
  }
  return sum;
}
const encoded = (colour: readonly number[]) => colour.map(v => encode(v) * 65535);

function near(found: number[], wanted: readonly number[], within: number) {
  found.forEach((v, k) => expect(Math.abs(v - wanted[k])).toBeLessThan(within));
}

async function decoded(options: RawOptions) {
  const path = file(options);
  const facts = await inspect(path);
  return { facts, ...(await decodePicture(path, facts)) };
}

describe('raw files', () => {
  it.each([false, true])(
    'of which linear is %s, are developed to sRGB with the white of the camera',
    async linear => {
      const { facts, ...picture } = await decoded({ width, height, at, linear });
      expect(facts).toMatchObject({ mediaType: 'image/x-raw', width, height, bits: 16, grey: false });
      expect(facts.part).toMatch(/developed/);
      expect([picture.width, picture.height]).toEqual([width, height]);
      // The library rounds its matrix of colours.
      near(mean(picture, 12, 24), encoded(fields(12)), 40);
      near(mean(picture, 52, 24), encoded(fields(52)), 40);
    },
  );

  it.each([
    [3, 64, 48, 52, 24],
    [6, 48, 64, 24, 12],
    [8, 48, 64, 24, 52],
  ])('turned by %i stand upright', async (orientation, across, down, x, y) => {
    const { facts, ...picture } = await decoded({ width, height, at, orientation });
    expect([facts.width, facts.height, picture.width, picture.height]).toEqual([across, down, across, down]);
    near(mean(picture, x, y), encoded(fields(12)), 40);
  });

  const preview = async (colour: string) => ({
    width: 640,
    height: 480,
    jpeg: await sharp({ create: { width: 640, height: 480, channels: 3, background: colour } })
      .jpeg({ quality: 95 })
      .toBuffer(),
  });

  it('are developed also where a preview stands first', async () => {
    const { facts, ...picture } = await decoded({ width, height, at, preview: await preview('#804020') });
    expect(facts.mediaType).toBe('image/x-raw');
    near(mean(picture, 12, 24), encoded(fields(12)), 40);
  });

  it.each([1, 6])(
    'of a kind that is not read give their preview, turned by %i, and say so',
    async orientation => {
      const options = { width: 640, height: 480, at, orientation, compression: 65000 };
      const { facts, codes } = await decoded({ ...options, preview: await preview('#804020') });
      expect(facts.mediaType).toBe('image/x-raw-preview');
      expect([facts.width, facts.height]).toEqual(orientation === 6 ? [480, 640] : [640, 480]);
      expect(facts.part).toMatch(/preview.*bring in a 16-bit TIFF/);
      near([...codes.subarray(0, 3)], [0x80, 0x40, 0x20], 3);
    },
  );

  it('of a kind that is not read, without a preview, are refused with the way out', async () => {
    await expect(inspect(file({ width, height, at, compression: 65000 }))).rejects.toThrow(
      /raw file that cannot be read.*Save it as a TIFF/,
    );
  });
});
