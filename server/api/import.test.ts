import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { QueryTypes } from 'sequelize';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asking } from '../testing/asking';
import { jpegTurned, p3Profile, png8, tiff16 } from '../testing/pictures';
import type { Series } from '../../contract/series';
import { dng } from '../testing/dng';
import { testServer, type TestServer } from '../testing/server';
import { decodePicture } from '../pictures/decode';
import { inspect } from '../pictures/inspect';
import { cleanName } from '../pictures/clean-name';
import { titleFrom } from './import';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const { http, newSeries, bringIn, photographIn } = asking(() => server);

describe('bringing in', () => {
  it('keeps the original byte for byte, and its SHA-256', async () => {
    const series = await newSeries();
    const file = await tiff16(700, 500, (x, y) => [(x * 91 + y) % 65536, (y * 131) % 65536, (x * y) % 65536]);
    expect(file.length).toBeGreaterThan(2 * 1024 * 1024);
    const photograph = await photographIn(series.id, file);
    expect(photograph.sha256).toBe(createHash('sha256').update(file).digest('hex'));
    const back = await http()
      .get(`/api/photographs/${photograph.id}/original`)
      .buffer()
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (part: Buffer) => parts.push(part));
        res.on('end', () => done(null, Buffer.concat(parts)));
      });
    expect(Buffer.compare(back.body as Buffer, file)).toBe(0);
    const chunks = await server.services.sequelize.query<{ n: number; most: number }>(
      'SELECT count(*)::int AS n, max(octet_length(bytes))::int AS most FROM blob_chunks WHERE sha256 = :sha256',
      { replacements: { sha256: photograph.sha256 }, type: QueryTypes.SELECT },
    );
    expect(chunks[0]).toEqual({ n: Math.ceil(file.length / 1048576), most: 1048576 });
  });

  it('keeps the same file only once', async () => {
    const series = await newSeries();
    const file = await png8(30, 20, x => [x * 8, 3, 200]);
    const [a, b] = [await photographIn(series.id, file), await photographIn(series.id, file)];
    expect(a.sha256).toBe(b.sha256);
    const [row] = await server.services.sequelize.query<{ n: number }>(
      'SELECT count(*)::int AS n FROM blobs WHERE sha256 = :s',
      { replacements: { s: a.sha256 }, type: QueryTypes.SELECT },
    );
    expect(row.n).toBe(1);
  });

  it('names a broken file and keeps nothing of it', async () => {
    const series = await newSeries();
    const png = await png8(300, 200, (x, y) => [(x * y) % 256, y, 9]);
    for (const [bytes, name] of [
      [Buffer.from('no picture'), 'notes.jpg'],
      [png.subarray(0, png.length / 2), 'cut short.png'],
      [Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), 'drawing.png'],
    ] as const) {
      const { status, body } = await bringIn(series.id, bytes, name);
      expect(status).toBe(422);
      expect(body.title).toContain(name);
    }
    expect((await http().get(`/api/series/${series.id}`)).body.photographs).toEqual([]);
    expect((await http().post(`/api/series/${series.id}/photographs`).send({})).status).toBe(415);
    expect((await http().post(`/api/series/${series.id}/photographs`).field('a', 'b')).status).toBe(400);
  });

  it('takes a name for a name, never for a path', async () => {
    expect(cleanName('../../etc/passwd')).toBe('passwd');
    expect(cleanName('C:\\pictures\\boat.jpg')).toBe('boat.jpg');
    expect(cleanName('a\u0000b\n.png')).toBe('ab.png');
    expect(cleanName('')).toBe('unnamed');
    expect(titleFrom('boat-shed_02.jpg')).toBe('Boat shed 02');
    const series = await newSeries();
    const { body } = await bringIn(series.id, await png8(4, 4, () => [1, 2, 3]), '../../../tmp/evil.png');
    expect(body.fileName).toBe('evil.png');
  });

  it('makes a photograph of each page of a TIFF, with pixels of its own, in their order', async () => {
    const series = await newSeries();
    const file = await readFile(new URL('../testing/made/pages.tif', import.meta.url));
    const { status, body } = await bringIn(series.id, file, 'album.tif');
    expect(status).toBe(201);
    const { photographs } = (await http().get(`/api/series/${series.id}`)).body as Series;
    expect(photographs.map(p => p.title)).toEqual(['Album, page 1', 'Album, page 2', 'Album, page 3']);
    expect(body.id).toBe(photographs[0].id);
    expect(photographs.map(p => p.grey)).toEqual([false, true, false]);
    expect(new Set(photographs.map(p => p.sha256)).size).toBe(1);
    const first = async (id: string) => {
      const tile = await http().get(`/api/photographs/${id}/pixels/48/0/0`).responseType('blob');
      return [...new Uint16Array(tile.body.buffer, tile.body.byteOffset, 3)];
    };
    const [one, two, three] = await Promise.all(photographs.map(p => first(p.id)));
    expect(two[0]).toBe(two[2]);
    one.forEach((v, k) => expect(v + three[k]).toBe(65535));
    // Once more into another series: the pages are known by then.
    const other = await newSeries();
    expect((await bringIn(other.id, file, 'album.tif')).status).toBe(201);
    const again = (await http().get(`/api/series/${other.id}`)).body as Series;
    expect(await Promise.all(again.photographs.map(p => first(p.id)))).toEqual([one, two, three]);
    // And not once more into the same, unless that is wanted.
    const twice = http().post(`/api/series/${series.id}/photographs`).attach('file', file, 'album.tif');
    expect((await twice).status).toBe(409);
  });

  it.each(['good.heic', 'lossless16.jxl', 'tiled.jp2', 'woven.gif', 'plain.bmp', 'float.tif', 'lzw.tif'])(
    'reads %s in its threads as it is read alone',
    async name => {
      const series = await newSeries();
      const path = fileURLToPath(new URL(`../testing/made/${name}`, import.meta.url));
      const { status, body } = await bringIn(series.id, await readFile(path), name);
      expect(status, JSON.stringify(body)).toBe(201);
      const alone = await decodePicture(path, await inspect(path));
      const tile = await http()
        .get(`/api/photographs/${body.id}/pixels/${Math.max(alone.width, alone.height)}/0/0`)
        .responseType('blob');
      const codes = new Uint16Array(tile.body.buffer, tile.body.byteOffset, tile.body.length / 2);
      const scale = alone.codes instanceof Uint16Array ? 1 : 257;
      expect(codes.length).toBe(alone.codes.length);
      expect(codes.every((v, i) => v === alone.codes[i] * scale)).toBe(true);
    },
  );

  it('keeps the camera and the author that a file names, of a raw too', async () => {
    const series = await newSeries();
    const told = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#345' } })
      .withExif({ IFD0: { Make: 'Tideline', Model: 'Tideline Two', Artist: 'Ada Quill' } })
      .jpeg()
      .toBuffer();
    expect((await bringIn(series.id, told, 'a.jpg')).body).toMatchObject({
      camera: 'Tideline Two',
      author: 'Ada Quill',
      taken: null,
    });
    const exif = [{ tag: 36867, type: 2, value: '2026:05:03 14:22:01' }];
    const raw = dng({ width: 64, height: 48, at: () => [0.2, 0.3, 0.4], exif });
    expect((await bringIn(series.id, raw, 'a.dng')).body).toMatchObject({
      mediaType: 'image/x-raw',
      camera: 'Tideline Two',
      author: null,
      taken: '2026-05-03T14:22:01',
    });
  });

  it('hands out tiles of real pixels, profile and orientation honoured', async () => {
    const series = await newSeries();
    const file = await jpegTurned(
      64,
      32,
      x => (x < 32 ? [200, 40, 40] : [40, 60, 190]),
      6,
      await p3Profile(),
    );
    const { body: photograph } = await bringIn(series.id, file, 'turned.jpg');
    expect([photograph.width, photograph.height]).toEqual([32, 64]);
    const tile = await http().get(`/api/photographs/${photograph.id}/pixels/64/0/0`).responseType('blob');
    const codes = new Uint16Array(tile.body.buffer, tile.body.byteOffset, tile.body.length / 2);
    expect(codes.length).toBe(32 * 64 * 3);
    expect(codes[3 * 16] / 257).toBeGreaterThan(200);
    expect(codes[(60 * 32 + 5) * 3 + 2] / 257).toBeGreaterThan(185);
    expect((await http().get(`/api/photographs/${photograph.id}/pixels/64/3/0`)).status).toBe(404);
    expect((await http().get(`/api/photographs/${photograph.id}/pixels/2/0/0`)).status).toBe(400);
  });
});
