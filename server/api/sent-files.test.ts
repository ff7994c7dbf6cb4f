import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { converter, type Color } from 'culori';
import exifr from 'exifr';
import { strFromU8, unzipSync } from 'fflate';
import * as lcms from 'lcms-wasm';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SendOut as Sent } from '../../contract/send-outs';
import { exactly } from '../../core/engine/lay';
import { SendOut } from '../data/models';
import { makeSendOut } from '../jobs/send-out';
import { asking, treatmentOf } from '../testing/asking';
import { png8, tiff16 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

/** Files that went out, read back by programs that have no part in writing them: exifr, Little CMS, the picture library, unzip. */

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const { http, newSeries, bringIn, photographIn, sent } = asking(() => server);

const FORMATS = [
  { format: 'jpeg' },
  { format: 'jpeg', progressive: true, chroma: 'halved' },
  { format: 'png' },
  { format: 'tiff', packing: 'deflate' },
  { format: 'webp' },
  { format: 'avif' },
] as const;

interface Read {
  Artist?: string;
  Copyright?: string;
  Make?: string;
  Orientation?: unknown;
  XResolution?: number;
  ResolutionUnit?: string;
  creator?: string | string[];
  Nickname?: string;
}
/** All that exifr reads; of a WebP, which it does not know, the EXIF part alone. */
async function tagsIn(file: Buffer): Promise<Read> {
  const { exif, format } = await sharp(file).metadata();
  const data =
    format === 'webp' && exif ? exif.subarray(exif.toString('latin1', 0, 4) === 'Exif' ? 6 : 0) : file;
  const all = { tiff: true, exif: true, xmp: true, jfif: true, ihdr: true, icc: false } as const;
  return ((await exifr.parse(data, { ...all, mergeOutput: true }).catch(() => undefined)) ?? {}) as Read;
}

describe('what a file tells', () => {
  it.each(FORMATS)('is author, rights and the take, or nothing: %j', async settings => {
    await http().put('/api/credits').send({ author: 'Ada Fenn', rights: '© 2026 Ada Fenn – “all”' });
    const series = await newSeries('Saltmarsh Ferry');
    const { currentTakeId: take } = await photographIn(series.id);
    await http().patch(`/api/takes/${take}`).send({ name: 'Aged paper' });
    const { file } = await sent(series.id, take, { ...settings, dpi: 240 });
    const tags = await tagsIn(file);
    expect(tags).toMatchObject({ Artist: 'Ada Fenn', Copyright: '© 2026 Ada Fenn – “all”' });
    const { xmp, density } = await sharp(file).metadata();
    expect(xmp!.toString('utf8')).toContain('Take A, Aged paper');
    if (['jpeg', 'png', 'tiff'].includes(settings.format)) expect(density).toBe(240);
    else expect(tags.XResolution).toBe(240);

    const { file: bare } = await sent(series.id, take, { ...settings, metadata: 'none' });
    expect(bare.includes('Fenn')).toBe(false);
    expect(bare.includes('Aged paper')).toBe(false);
    expect((await sharp(bare).metadata()).icc).toBeTruthy();
    // The pixels are the same, whatever is told beside them.
    const pixels = (of: Buffer) => sharp(of).raw().toBuffer();
    expect((await pixels(bare)).equals(await pixels(file))).toBe(true);
  });

  it('is all that the original told, but how it lay', async () => {
    const series = await newSeries();
    const original = await sharp(await png8(60, 40, x => [x * 4, 90, 120]))
      .withExif({ IFD0: { Make: 'Fernhill', Model: 'Quarter plate', Artist: 'Somebody else' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const { body } = await bringIn(series.id, original, 'a.jpg');
    await http().put('/api/credits').send({ author: '', rights: '' });
    const take = (body as { currentTakeId: string }).currentTakeId;
    for (const format of ['jpeg', 'tiff', 'png']) {
      const { file } = await sent(series.id, take, { format, metadata: 'all' });
      expect(await tagsIn(file)).toMatchObject({ Make: 'Fernhill', Artist: 'Somebody else' });
      const { width, height, orientation = 1 } = await sharp(file).metadata();
      expect([width, height, orientation]).toEqual([40, 60, 1]);
      const { file: told } = await sent(series.id, take, { format });
      expect((await tagsIn(told)).Make).toBeUndefined();
    }
  });
});

/** A picture of one colour through Little CMS: RGB or grey codes of a file, by its own profile, to D50 XYZ. */
async function xyzOf(file: Buffer): Promise<number[]> {
  const { icc, channels } = await sharp(file).metadata();
  const raw = await sharp(file, { ignoreIcc: true })
    .toColourspace(channels === 1 ? 'grey16' : 'rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const engine = await lcms.instantiate();
  const float = (space: number, count: number) => (1 << 22) | (space << 16) | (count << 3) | 4;
  const profile = engine.cmsOpenProfileFromMem(new Uint8Array(icc!), icc!.length);
  const to = engine.cmsCreateTransform(
    profile,
    raw.info.channels === 1 ? float(3, 1) : float(4, 3),
    engine.cmsCreateXYZProfile(),
    float(9, 3),
    1,
    lcms.cmsFLAGS_NOOPTIMIZE,
  );
  const at = 2 * raw.info.channels * (raw.info.width + 1);
  const code = (k: number) => raw.data.readUInt16LE(at + 2 * k) / 65535;
  return [
    ...engine.cmsDoTransform(
      to,
      Float32Array.from({ length: raw.info.channels }, (_, k) => code(k)),
      1,
    ),
  ];
}

describe('profiles', () => {
  const colour = [52_000, 21_000, 9_000] as const;
  const treatment = treatmentOf(
    { kind: 'light', settings: { exposure: 0.2 } },
    { kind: 'saturation', settings: { amount: 0.3 } },
  );
  const vivid = treatmentOf({ kind: 'saturation', settings: { amount: 1 } });

  it.each(['srgb', 'display-p3', 'wide', 'grey', 'grey-gamma'])('%s says the true colour', async profile => {
    const series = await newSeries();
    const { currentTakeId: take } = await photographIn(series.id, await tiff16(20, 16, () => colour));
    await http().put(`/api/takes/${take}/treatment`).send({ revision: 1, treatment });
    const { file } = await sent(series.id, take, { format: 'tiff', bits: 16, profile });
    const rgb = Float64Array.from(colour, v => v / 65535);
    exactly(treatment)(rgb);
    const [r, g, b] = rgb;
    const { x, y, z } = converter('xyz50')({ mode: 'rgb', r, g, b } as Color);
    const found = await xyzOf(file);
    const luminance = converter('xyz65')({ mode: 'rgb', r, g, b } as Color).y;
    if (profile.startsWith('grey')) expect(found[1]).toBeCloseTo(luminance, 3);
    else [x, y, z].forEach((v, k) => expect(found[k]).toBeCloseTo(v, 3));
  });

  it('that are wider hold what lies beyond sRGB', async () => {
    const series = await newSeries();
    const { currentTakeId: take } = await photographIn(series.id, await tiff16(20, 16, () => colour));
    await http().put(`/api/takes/${take}/treatment`).send({ revision: 1, treatment: vivid });
    const rgb = Float64Array.from(colour, v => v / 65535);
    exactly(vivid)(rgb);
    expect(rgb.some(v => v < -0.05 || v > 1.05)).toBe(true);
    const of = async (profile: string) =>
      xyzOf((await sent(series.id, take, { format: 'tiff', bits: 16, profile })).file);
    const [r, g, b] = rgb;
    const { x, y, z } = converter('xyz50')({ mode: 'rgb', r, g, b } as Color);
    const [narrow, wide] = [await of('srgb'), await of('wide')];
    [x, y, z].forEach((v, k) => expect(wide[k]).toBeCloseTo(v, 3));
    expect(Math.hypot(...narrow.map((v, k) => v - wide[k]))).toBeGreaterThan(0.02);
  });

  it('are not written where a format has none for them', async () => {
    const series = await newSeries();
    const { currentTakeId: take } = await photographIn(series.id);
    const refused = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [take], settings: { format: 'avif', profile: 'grey' } });
    expect(refused.status).toBe(400);
  });
});

describe('how a file is coded', () => {
  it('is as asked: chroma, progressive, packing, ten bits', async () => {
    const series = await newSeries();
    const { currentTakeId: take } = await photographIn(series.id);
    const of = async (settings: object) => sharp((await sent(series.id, take, settings)).file).metadata();
    expect(await of({ format: 'jpeg' })).toMatchObject({ chromaSubsampling: '4:4:4', isProgressive: false });
    expect(await of({ format: 'jpeg', chroma: 'halved', progressive: true })).toMatchObject({
      chromaSubsampling: '4:2:0',
      isProgressive: true,
    });
    for (const packing of ['none', 'lzw', 'deflate']) {
      expect((await of({ format: 'tiff', packing })).compression ?? packing).toBe(packing);
    }
    expect(await of({ format: 'avif', bits: 10 })).toMatchObject({ bitsPerSample: 10 });
  });

  it('is as large as asked, and sharpened for what it is looked at on without moving flat places', async () => {
    const series = await newSeries();
    const step = await png8(600, 400, x => (x < 300 ? [90, 90, 90] : [150, 150, 150]));
    const { currentTakeId: take } = await photographIn(series.id, step);
    const row = async (settings: object) => {
      const { file } = await sent(series.id, take, { format: 'png', ...settings });
      const { data, info } = await sharp(file).greyscale().raw().toBuffer({ resolveWithObject: true });
      return { width: info.width, height: info.height, values: [...data.subarray(0, info.width)], file };
    };
    const plain = await row({ size: { by: 'print', length: 2, unit: 'inch' }, dpi: 150 });
    expect([plain.width, plain.height]).toEqual([300, 200]);
    expect((await sharp(plain.file).metadata()).density).toBe(150);
    const few = await row({ size: { by: 'print', length: 4, unit: 'inch' }, dpi: 300 });
    expect([few.width, (await sharp(few.file).metadata()).density]).toEqual([600, 150]);
    for (const purpose of ['screen', 'glossy', 'matte']) {
      const { values } = await row({ sharpen: { purpose, amount: 0.5 } });
      expect(Math.max(...values)).toBeGreaterThan(152);
      expect(Math.min(...values)).toBeLessThan(88);
      expect([values[20], values[580]]).toEqual([90, 150]);
    }
    const { values } = await row({ sharpen: { purpose: 'none', amount: 1 } });
    expect([Math.min(...values), Math.max(...values)]).toEqual([90, 150]);
  });
});

describe('many', () => {
  const settingsOf = (more: object = {}) => ({ format: 'png', names: ['title'], ...more });
  const twelve = async () => {
    const series = await newSeries('Low water');
    const takes: string[] = [];
    for (let i = 0; i < 12; i++) {
      takes.push(
        (await photographIn(series.id, await png8(12 + i, 10, () => [i * 20, 60, 60]))).currentTakeId,
      );
    }
    const { body } = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes, settings: settingsOf() });
    return { series, rows: body as Sent[] };
  };
  const statesOf = async (series: string) =>
    ((await http().get(`/api/send-outs?series=${series}`)).body as Sent[]).map(s => s.state);

  it('are held and go on, in their places in the list; done is cleared, what failed stays', async () => {
    const { series, rows } = await twelve();
    for (const { id } of rows.slice(0, 4)) await makeSendOut(server.services, id);
    await http().post(`/api/series/${series.id}/send-outs/pause`).send({});
    // What was asked for before is not done while it is held.
    await makeSendOut(server.services, rows[5].id);
    expect(await statesOf(series.id)).toEqual([
      ...Array<string>(4).fill('done'),
      ...Array<string>(8).fill('paused'),
    ]);
    expect((await http().delete(`/api/send-outs/${rows[6].id}`)).status).toBe(409);
    expect((await http().post(`/api/send-outs/${rows[6].id}/stop`).send({})).body.state).toBe('stopped');
    const { body } = await http().post(`/api/series/${series.id}/send-outs/resume`).send({});
    expect((body as Sent[]).map(s => s.id)).toEqual(rows.map(s => s.id));
    const full = { pixels: () => Promise.reject(new Error('The disk is full.')) };
    // eslint-disable-next-line no-restricted-syntax -- a store that only fails
    await makeSendOut({ ...server.services, pictures: full as never }, rows[7].id);
    for (const { id } of rows) await makeSendOut(server.services, id);
    const states = await statesOf(series.id);
    expect([states[6], states[7]]).toEqual(['stopped', 'failed']);
    expect(states.filter(s => s === 'done')).toHaveLength(10);
    await http().post(`/api/series/${series.id}/send-outs/clear`).send({});
    expect(await statesOf(series.id)).toEqual(['failed']);
  });

  it('come as one zip that other programs open, each under a name of its own', async () => {
    const { series, rows } = await twelve();
    expect((await http().get(`/api/series/${series.id}/sent-files`)).status).toBe(409);
    for (const { id } of rows) await makeSendOut(server.services, id);
    const { body, headers } = await http().get(`/api/series/${series.id}/sent-files`).responseType('blob');
    expect(headers['content-disposition']).toContain('low-water.zip');
    const files = unzipSync(new Uint8Array(body as Buffer));
    const names = Object.keys(files);
    expect(names).toHaveLength(12);
    expect(names.slice(0, 3)).toEqual(['picture.png', 'picture-2.png', 'picture-3.png']);
    const widths = await Promise.all(names.map(async n => (await sharp(files[n]).metadata()).width));
    expect(widths).toEqual(rows.map((_, i) => 12 + i));
    const folder = await mkdtemp(join(tmpdir(), 'lampwash-zip-'));
    try {
      await writeFile(join(folder, 'a.zip'), body as Buffer);
      const { stdout } = await promisify(execFile)('unzip', ['-t', join(folder, 'a.zip')]);
      expect(stdout).toContain('No errors detected');
    } finally {
      await rm(folder, { recursive: true });
    }
    expect(strFromU8(files['picture.png'].subarray(1, 4))).toBe('PNG');
  });

  it('of a series that is gone, or of nobody, are not given', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect((await http().get(`/api/series/${nobody}/sent-files`)).status).toBe(404);
    expect((await http().get('/api/series/x/sent-files')).status).toBe(400);
  });
});

describe('settings', () => {
  it('are kept under names, replaced, and forgotten; what no file can be like is not kept', async () => {
    const keep = (name: string, settings: object) =>
      http().post('/api/send-out-settings').send({ name, settings });
    const first = await keep('For the gallery', { format: 'tiff', bits: 16, dpi: 360 });
    expect(first.body).toMatchObject({
      name: 'For the gallery',
      settings: { dpi: 360, size: { by: 'full' } },
    });
    await keep('By post', { format: 'jpeg' });
    const again = await keep('For the gallery', { format: 'png' });
    expect(again.body.id).toBe(first.body.id);
    const { body } = await http().get('/api/send-out-settings');
    expect((body as { name: string }[]).map(s => s.name)).toEqual(['By post', 'For the gallery']);
    expect((await keep('Impossible', { format: 'jpeg', bits: 16 })).status).toBe(400);
    expect((await keep(' ', {})).status).toBe(400);
    expect((await http().delete(`/api/send-out-settings/${first.body.id}`)).status).toBe(204);
    expect((await http().delete(`/api/send-out-settings/${first.body.id}`)).status).toBe(404);
  });

  it('of earlier versions are read with what has come since', async () => {
    const series = await newSeries();
    const { currentTakeId: takeId } = await photographIn(series.id);
    const old = { format: 'png', bits: 8, profile: 'srgb', quality: 90, size: { by: 'full' } };
    const base = { takeId, seriesId: series.id, treatment: treatmentOf(), fileName: 'x.png' };
    // eslint-disable-next-line no-restricted-syntax -- a row as an earlier version wrote it
    const row = await SendOut.create({ ...base, settings: old as never });
    await makeSendOut(server.services, row.id);
    const { body } = await http().get(`/api/send-outs?series=${series.id}`);
    expect((body as Sent[])[0]).toMatchObject({ state: 'done', settings: { metadata: 'rights', dpi: 300 } });
  });
});
