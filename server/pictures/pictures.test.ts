import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter } from 'culori';
import { greyOf } from '../../core/kernels/luminance';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { encode } from '../../core/colour/srgb';
import { jpegTurned, p3Profile, png8, tiff16, type Rgb } from '../testing/pictures';
import { FileCache } from './cache';
import { decodePicture, resizePixels } from './decode';
import { sendOutSettings } from '../../contract/send-outs';
import { encodePicture } from './encode';
import { formatNamed, impossible } from './formats';
import { conversionOf } from './colour-engine';
import { makeGreyProfile, profileName } from './icc';
import { PictureError } from './bounds';
import { inspect } from './inspect';
import { TILE } from '../../contract/limits';
import { PictureStore } from './store';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-pictures-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let next = 0;
async function put(bytes: Uint8Array): Promise<string> {
  const path = join(folder, `file-${next++}`);
  await writeFile(path, bytes);
  return path;
}
async function decoded(bytes: Uint8Array) {
  const path = await put(bytes);
  const facts = await inspect(path);
  return { facts, pixels: await decodePicture(path, facts) };
}

describe('decoding', () => {
  it('keeps 16 bits and converts the embedded profile to sRGB', async () => {
    const inP3: Rgb = [50_000, 20_000, 30_000];
    const { facts, pixels } = await decoded(await tiff16(40, 30, () => inP3, await p3Profile()));
    expect(facts).toMatchObject({ mediaType: 'image/tiff', bits: 16, grey: false, width: 40, height: 30 });
    expect(facts.profile).toBeTruthy();
    const rgb = converter('rgb')({ mode: 'p3', r: inP3[0] / 65535, g: inP3[1] / 65535, b: inP3[2] / 65535 });
    const expected = [rgb.r, rgb.g, rgb.b].map(v => v * 65535);
    for (let k = 0; k < 3; k++) expect(Math.abs(pixels.codes[k] - expected[k])).toBeLessThan(128);
  });

  it('16 bits without a profile come through code for code', async () => {
    const { pixels } = await decoded(await tiff16(50, 40, (x, y) => [x * 1234, y * 1500, 65535 - x * 37]));
    for (const [x, y] of [
      [0, 0],
      [49, 39],
      [17, 23],
    ]) {
      const at = (y * 50 + x) * 3;
      expect(Array.from(pixels.codes.slice(at, at + 3))).toEqual([x * 1234, y * 1500, 65535 - x * 37]);
    }
  });

  it('turns upright by EXIF and converts an 8-bit profile', async () => {
    // Red on the left of the file; orientation 6 is shown with the file's left side on top.
    const file = await jpegTurned(
      64,
      32,
      x => (x < 32 ? [200, 40, 40] : [40, 60, 190]),
      6,
      await p3Profile(),
    );
    const { facts, pixels } = await decoded(file);
    expect([facts.width, facts.height, pixels.width, pixels.height]).toEqual([32, 64, 32, 64]);
    const top = Array.from(pixels.codes.slice(3 * 16, 3 * 16 + 3));
    const at = (50 * 32 + 16) * 3;
    const bottom = Array.from(pixels.codes.slice(at, at + 3));
    const expected = (c: Rgb) => {
      const rgb = converter('rgb')({ mode: 'p3', r: c[0] / 255, g: c[1] / 255, b: c[2] / 255 });
      return [rgb.r, rgb.g, rgb.b].map(v => Math.min(255, Math.max(0, v * 255)));
    };
    expected([200, 40, 40]).forEach((v, k) => expect(Math.abs(top[k] - v)).toBeLessThan(4));
    expected([40, 60, 190]).forEach((v, k) => expect(Math.abs(bottom[k] - v)).toBeLessThan(4));
  });

  it('takes grey files, of 8 and 16 bits, as equal channels', async () => {
    const grey16 = Uint16Array.from({ length: 300 }, (_, i) => i * 200);
    const file = await sharp(grey16, { raw: { width: 20, height: 15, channels: 1 } })
      .toColourspace('grey16')
      .png()
      .toBuffer();
    const { facts, pixels } = await decoded(file);
    expect(facts).toMatchObject({ grey: true, bits: 16, mediaType: 'image/png' });
    expect(Array.from(pixels.codes.slice(150, 156))).toEqual([
      10_000, 10_000, 10_000, 10_200, 10_200, 10_200,
    ]);
    const eight = await decoded(await sharp(file).toColourspace('b-w').jpeg().toBuffer());
    expect(eight.facts).toMatchObject({ grey: true, bits: 8 });
    expect(eight.pixels.codes[30]).toBe(eight.pixels.codes[32]);
  });

  it('honours the tone curve of a grey profile', async () => {
    // A profile whose curve is linear light: code 0.2 is the grey whose encoded value is encode(0.2).
    const profile = makeGreyProfile(null);
    const at = profile.indexOf('curv', 128 + 4 + 4 * 12, 'latin1');
    const linear = Buffer.from(profile);
    for (let i = 0; i < 1024; i++) linear.writeUInt16BE(Math.round((i / 1023) * 65535), at + 12 + i * 2);
    const file = await sharp(new Uint8Array(100).fill(51), { raw: { width: 10, height: 10, channels: 1 } })
      .toColourspace('b-w')
      .png()
      .toBuffer();
    const { pixels } = await decoded(formatNamed('png').embed!(file, linear));
    expect(pixels.codes[0] / 65535).toBeCloseTo(encode(0.2), 3);
  });

  it.each(['webp', 'avif'] as const)('takes %s', async format => {
    const file = await sharp(await png8(32, 24, () => [120, 60, 30]))
      .toFormat(format, { quality: 95 })
      .toBuffer();
    const { facts, pixels } = await decoded(file);
    expect(facts.mediaType).toBe(`image/${format}`);
    expect(Math.abs(pixels.codes[0] - 120)).toBeLessThan(5);
  });

  it('lays alpha on white', async () => {
    const file = await sharp({
      create: { width: 8, height: 8, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .png()
      .toBuffer();
    const { pixels } = await decoded(file);
    expect(Array.from(pixels.codes.slice(0, 3))).toEqual([255, 255, 255]);
  });

  it('refuses what is not a picture, and what is damaged, saying so', async () => {
    await expect(inspect(await put(Buffer.from('hello')))).rejects.toThrow(PictureError);
    await expect(inspect(await put(Buffer.alloc(0)))).rejects.toThrow(PictureError);
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    await expect(inspect(await put(svg))).rejects.toThrow(/is a drawing/);
    const png = await png8(300, 200, (x, y) => [x % 256, y, 9]);
    await expect(decoded(png.subarray(0, png.length / 2))).rejects.toThrow(/damaged/);
  });
});

describe('resizing', () => {
  it('is in linear light: fine black and white lines keep their light', async () => {
    const codes = Uint8Array.from({ length: 128 * 128 * 3 }, (_, i) => (Math.floor(i / 3) % 2 ? 255 : 0));
    const small = await resizePixels({ width: 128, height: 128, codes }, 32, 32);
    expect(small.codes[(16 * 32 + 16) * 3] / 65535).toBeCloseTo(encode(0.5), 1);
  });

  it('keeps a flat colour exactly', async () => {
    const codes = Uint8Array.from({ length: 90 * 60 * 3 }, (_, i) => [90, 150, 30][i % 3]);
    const small = await resizePixels({ width: 90, height: 60, codes }, 31, 20);
    for (let k = 0; k < 3; k++)
      expect(Math.abs(small.codes[300 + k] - [90, 150, 30][k] * 257)).toBeLessThan(40);
  });
});

describe('encoding', () => {
  const ramp8 = Uint8Array.from({ length: 64 * 48 * 3 }, (_, i) => (i / 3) % 256);
  const ramp16 = Uint16Array.from({ length: 64 * 48 * 3 }, (_, i) => Math.floor(i / 3) * 21);

  it.each([
    ['png', 8],
    ['png', 16],
    ['tiff', 8],
    ['tiff', 16],
  ] as const)('%s of %i bits keeps every code and carries its profile', async (format, bits) => {
    const codes = bits === 8 ? ramp8 : ramp16;
    const file = await encodePicture(codes, 64, 48, sendOutSettings.parse({ format, bits }));
    const metadata = await sharp(file).metadata();
    expect(metadata).toMatchObject({
      format,
      depth: bits === 8 ? 'uchar' : 'ushort',
      width: 64,
      channels: 3,
    });
    expect(profileName(metadata.icc!)).toMatch(/sRGB/i);
    const { pixels } = await decoded(file);
    const worst = Array.from(codes).reduce((most, v, i) => Math.max(most, Math.abs(v - pixels.codes[i])), 0);
    expect(worst).toBeLessThanOrEqual(bits === 8 ? 1 : 128);
  });

  it.each(['jpeg', 'png', 'tiff'] as const)(
    '%s in grey has one channel, the luminance, and a grey profile',
    async format => {
      const codes = Uint8Array.from({ length: 64 * 48 * 3 }, (_, i) => [200, 90, 40][i % 3]);
      const file = await encodePicture(
        greyOf(codes),
        64,
        48,
        sendOutSettings.parse({ format, profile: 'grey', quality: 100 }),
      );
      const metadata = await sharp(file).metadata();
      expect(metadata.channels).toBe(1);
      expect(profileName(metadata.icc!)).toBe('Grey, sRGB tone curve');
      const y = converter('xyz65')({ mode: 'rgb', r: 200 / 255, g: 90 / 255, b: 40 / 255 }).y;
      const { pixels } = await decoded(file);
      expect(Math.abs(pixels.codes[600] / 65535 - encode(y))).toBeLessThan(1.5 / 255);
    },
  );

  it('refuses a JPEG of 16 bits', () => {
    expect(impossible(sendOutSettings.parse({ format: 'jpeg', bits: 16 }))).toBe('a JPEG has 8 bits');
    expect(impossible(sendOutSettings.parse({ format: 'gem' }))).toContain('gem');
  });

  it('the grey profile is one that is read again', async () => {
    const conversion = await conversionOf(makeGreyProfile(null), 1);
    if (conversion.channels !== 1) throw new Error('not one of grey');
    for (const v of [0, 0.1, 0.5, 1]) {
      const code = Math.round(v * 65535);
      expect(Math.abs(conversion.table[code] - code)).toBeLessThan(40);
    }
  });
});

describe('the store of pixels', () => {
  it('gives tiles that make up the whole, at any size', async () => {
    const path = await put(await png8(1300, 700, (x, y) => [x % 256, y % 256, (x + y) % 256]));
    const facts = await inspect(path);
    const source = { ...facts, sha256: 'a'.repeat(64) };
    const store = new PictureStore(new FileCache(join(folder, 'pixels'), 1e9), async () => path);
    await store.admit(source, path);
    for (const longEdge of [1300, 640, 333]) {
      const whole = await store.pixels(source, longEdge);
      expect(Math.max(whole.width, whole.height)).toBe(longEdge);
      for (const [column, row] of [
        [0, 0],
        [Math.floor((whole.width - 1) / TILE), Math.floor((whole.height - 1) / TILE)],
      ]) {
        const tile = await store.tile(source, longEdge, column, row);
        const scale = whole.codes instanceof Uint16Array ? 1 : 257;
        const at = (row * TILE * whole.width + column * TILE) * 3;
        expect(Array.from(tile.slice(0, 3))).toEqual(
          Array.from(whole.codes.slice(at, at + 3), v => v * scale),
        );
      }
      expect((await store.tile(source, longEdge, 9, 0)).length).toBe(0);
    }
  });
});
