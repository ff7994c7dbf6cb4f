import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { profileBytes } from '../pictures/encode';
import { asking, treatmentOf } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

/** Written files, read back by programs that know nothing of how they were made: ExifTool, ImageMagick with Little CMS, FFmpeg. */

const run = promisify(execFile);
let server: TestServer;
let folder: string;
let series: { id: string };
let take: string;
const SIZE = 48;
/** Many colours, all within sRGB. */
const picture = (saturation = 0.35) =>
  png8(SIZE, SIZE, (x, y) => [
    128 + 127 * saturation * Math.sin(x / 3),
    128 + 127 * saturation * Math.cos(y / 5),
    60 + 120 * (x / SIZE),
  ]);
beforeAll(async () => {
  server = await testServer();
  folder = await mkdtemp(join(tmpdir(), 'lampwash-back-'));
  series = await newSeries('Saltmarsh Ferry');
  take = (await photographIn(series.id, await picture())).currentTakeId;
  await http().patch(`/api/takes/${take}`).send({ name: 'Aged paper' });
  await http().put('/api/credits').send({ author: 'Ada Fenn', rights: '© 2026 Ada Fenn' });
});
afterAll(async () => {
  await server.close();
  await rm(folder, { recursive: true, force: true });
});
const { http, newSeries, photographIn, sent } = asking(() => server);

/** A file on the disk. */
async function written(name: string, bytes: Uint8Array): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, bytes);
  return path;
}
async function sentTo(settings: object, of = take): Promise<string> {
  const { file, row } = await sent(series.id, of, settings);
  return written(`${row.id}-${row.fileName}`, file);
}
/** What ExifTool tells of a file. */
async function tags(path: string): Promise<Record<string, unknown>> {
  const { stdout } = await run('exiftool', ['-j', '-n', path]);
  return (JSON.parse(stdout) as Record<string, unknown>[])[0];
}
/** 16-bit codes of what ImageMagick makes of pictures. */
async function codes(...asked: string[]): Promise<Uint16Array> {
  const options = { encoding: 'buffer', maxBuffer: 1 << 26 } as const;
  const { stdout } = await run(
    'convert-im6.q16',
    [...asked, '-depth', '16', '-endian', 'LSB', 'rgb:-'],
    options,
  );
  return Uint16Array.from({ length: stdout.length / 2 }, (_, i) => stdout.readUInt16LE(2 * i));
}
const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
/** In the mean, of 255. */
const apart = (a: Uint16Array, b: Uint16Array) => {
  expect(a.length).toBe(b.length);
  return mean(Array.from(a, (v, i) => Math.abs(v - b[i]) / 257));
};

describe('ExifTool reads', () => {
  const all = [
    [
      { format: 'jpeg', chroma: 'kept' },
      { FileType: 'JPEG', YCbCrSubSampling: '1 1', EncodingProcess: 0 },
    ],
    [
      { format: 'jpeg', chroma: 'halved', progressive: true },
      { YCbCrSubSampling: '2 2', EncodingProcess: 2 },
    ],
    [
      { format: 'png', bits: 16 },
      { FileType: 'PNG', BitDepth: 16 },
    ],
    [
      { format: 'tiff', packing: 'none' },
      { FileType: 'TIFF', Compression: 1, BitsPerSample: '8 8 8' },
    ],
    [
      { format: 'tiff', packing: 'lzw', bits: 16 },
      { Compression: 5, BitsPerSample: '16 16 16' },
    ],
    [
      { format: 'tiff', packing: 'deflate', profile: 'grey' },
      { Compression: 8, BitsPerSample: 8 },
    ],
    [{ format: 'webp' }, { FileType: 'Extended WEBP' }],
    [{ format: 'avif' }, { FileType: 'AVIF' }],
  ] as const;
  it.each(all)(
    '%j as it was asked for: kind, resolution, author, rights, take',
    async (settings, expected) => {
      const read = await tags(await sentTo({ ...settings, dpi: 240 }));
      expect(read).toMatchObject(expected);
      expect(read).toMatchObject({
        Artist: 'Ada Fenn',
        Copyright: '© 2026 Ada Fenn',
        Nickname: 'Take A, Aged paper',
      });
      if (settings.format !== 'png') expect(read).toMatchObject({ XResolution: 240, ResolutionUnit: 2 });
      else expect(Math.round(Number(read.PixelsPerUnitX) * 0.0254)).toBe(240);
      if (settings.format !== 'avif') expect(read.ProfileDescription).toBeTruthy();
    },
  );

  it('nothing that was not to be told', async () => {
    for (const format of ['jpeg', 'png', 'tiff', 'webp', 'avif']) {
      const read = await tags(await sentTo({ format, metadata: 'none' }));
      for (const name of ['Artist', 'Copyright', 'Nickname', 'Make', 'DateTimeOriginal', 'Creator'])
        expect(read[name], `${format} ${name}`).toBeUndefined();
    }
  });
});

describe('ImageMagick, by Little CMS,', () => {
  const srgb = async () => written('srgb.icc', await profileBytes('srgb'));

  it.each(['display-p3', 'wide'])('finds in %s the colours that sRGB has', async profile => {
    const plain = await codes(await sentTo({ format: 'tiff', bits: 16 }));
    const other = await sentTo({ format: 'tiff', bits: 16, profile });
    // The numbers differ; the colours do not.
    expect(apart(await codes(other), plain)).toBeGreaterThan(2);
    expect(apart(await codes(other, '-profile', await srgb()), plain)).toBeLessThan(0.15);
  });

  it.each(['display-p3', 'wide'])('finds in an AVIF in %s the colours that sRGB has', async profile => {
    const plain = await codes(await sentTo({ format: 'tiff', bits: 16 }));
    for (const bits of [8, 10]) {
      const { file } = await sent(series.id, take, { format: 'avif', bits, profile, quality: 100 });
      const { icc } = await sharp(file).metadata();
      expect(icc?.equals(await profileBytes(profile as 'wide'))).toBe(true);
      // The numbers as they are, as a picture that ImageMagick opens.
      const numbers = await sharp(file, { ignoreIcc: true }).removeAlpha().png().toBuffer();
      const other = await written(`${profile}-${bits}.png`, numbers);
      const as = ['-profile', await written('own.icc', icc!), '-profile', await srgb()];
      expect(apart(await codes(other, ...as), plain)).toBeLessThan(1.5);
      expect(apart(await codes(other), plain)).toBeGreaterThan(2);
    }
  });

  it.each(['grey', 'grey-gamma'])('finds in %s the luminance that sRGB has', async profile => {
    const treatment = treatmentOf({ kind: 'mono' });
    const { currentTakeId: mono } = await photographIn(series.id, await picture());
    await http().put(`/api/takes/${mono}/treatment`).send({ revision: 1, treatment });
    const plain = await codes(await sentTo({ format: 'tiff', bits: 16 }, mono));
    const grey = await sentTo({ format: 'tiff', bits: 16, profile }, mono);
    expect(apart(await codes(grey, '-profile', await srgb()), plain)).toBeLessThan(0.3);
  });

  it('finds more colour in a wide file where a treatment goes beyond sRGB', async () => {
    const treatment = treatmentOf({ kind: 'saturation', settings: { amount: 1 } });
    const { currentTakeId: vivid } = await photographIn(series.id, await picture(0.9));
    await http().put(`/api/takes/${vivid}/treatment`).send({ revision: 1, treatment });
    const lab = await written('wide.icc', await profileBytes('wide'));
    const spread = (of: Uint16Array) =>
      mean(Array.from({ length: of.length / 3 }, (_, i) => {
        const c = of.subarray(i * 3, i * 3 + 3);
        return (Math.max(...c) - Math.min(...c)) / 257;
      })); // prettier-ignore
    // Both as numbers of the wide space.
    const plain = await codes(await sentTo({ format: 'tiff', bits: 16 }, vivid), '-profile', lab);
    const wide = await codes(await sentTo({ format: 'tiff', bits: 16, profile: 'wide' }, vivid));
    expect(spread(wide)).toBeGreaterThan(spread(plain) + 3);
  });
});

describe('FFmpeg', () => {
  it.each([17, 33, 65])(
    'applies a table of %i entries to the bare photograph, and has the take within what is stated',
    async size => {
      const treatment = treatmentOf(
        { kind: 'light', settings: { exposure: 0.4 } },
        { kind: 'mono' },
        {
          kind: 'split-tone',
          settings: { shadows: { hue: 230, saturation: 0.5 }, highlights: { hue: 40, saturation: 0.4 } },
        },
      );
      const bare = await picture(0.8);
      const { currentTakeId: toned } = await photographIn(series.id, bare);
      await http().put(`/api/takes/${toned}/treatment`).send({ revision: 1, treatment });
      const { body: said } = await http().get(`/api/takes/${toned}/cube/exactness?size=${size}`);
      const { text } = await http().get(`/api/takes/${toned}/cube?size=${size}`);
      const table = await written(`t${size}.cube`, Buffer.from(text));
      const [input, output] = [join(folder, 'bare.png'), join(folder, `out${size}.png`)];
      // With 16 bits, which FFmpeg would make otherwise by shifting 8.
      await run('convert-im6.q16', [await written('bare8.png', bare), `PNG48:${input}`]);
      const filter = `lut3d=file=${table}:interp=tetrahedral`;
      await run('ffmpeg', [
        '-v',
        'error',
        '-y',
        '-i',
        input,
        '-vf',
        `format=gbrp16,${filter}`,
        '-pix_fmt',
        'rgb48be',
        output,
      ]);
      const own = await codes(await sentTo({ format: 'png', bits: 16 }, toned));
      const off = apart(await codes(output), own);
      // A difference of 1 ΔE is some 2 to 3 of 255.
      expect(off).toBeLessThan(3 * Number(said.mean) + 0.3);
      expect(off).toBeLessThan(1);
    },
  );
});

describe('what will go out, looked at before', () => {
  it('is the same part of the file, pixel for pixel', async () => {
    const noisy = await png8(200, 140, (x, y) => [
      (x * 37 + y * 91) % 256,
      (x * 53 + y * 17) % 256,
      (x * y) % 256,
    ]);
    const { currentTakeId: id } = await photographIn(series.id, noisy);
    await http()
      .put(`/api/takes/${id}/treatment`)
      .send({ revision: 1, treatment: treatmentOf({ kind: 'mono' }) });
    const settings = {
      format: 'png',
      size: { by: 'long-edge', pixels: 120 },
      sharpen: { purpose: 'screen', amount: 0.8 },
    };
    const part = async (at: object, with_ = settings) => {
      const answer = await http()
        .post(`/api/takes/${id}/output-part`)
        .send({ settings: with_, width: 40, height: 30, ...at })
        .responseType('blob');
      expect(answer.headers['content-type']).toBe('image/png');
      return sharp(answer.body as Buffer)
        .raw()
        .toBuffer();
    };
    const { file } = await sent(series.id, id, settings);
    const of = (left: number, top: number) =>
      sharp(file).extract({ left, top, width: 40, height: 30 }).raw().toBuffer();
    expect((await part({ x: 0.5, y: 0.5 })).equals(await of(40, 27))).toBe(true);
    expect((await part({ x: 0, y: 1 })).equals(await of(0, 54))).toBe(true);
    const plain = await part({ x: 0.5, y: 0.5 }, { ...settings, sharpen: { purpose: 'none', amount: 0.8 } });
    expect(plain.equals(await of(40, 27))).toBe(false);
  });
});

describe('a border', () => {
  it('stands about the picture in every format, with its line', async () => {
    const border = { width: 0.25, colour: 'white', caption: true };
    for (const format of ['jpeg', 'png', 'tiff', 'webp', 'avif']) {
      const { file } = await sent(series.id, take, { format, border, quality: 95 });
      const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height], format).toEqual([72, 72]);
      for (let k = 0; k < 3; k++) expect(data[k]).toBeGreaterThan(252);
      const middle = data.subarray((36 * 72 + 36) * info.channels, (36 * 72 + 36) * info.channels + 3);
      expect(Math.min(...middle)).toBeLessThan(200);
    }
  });
});
