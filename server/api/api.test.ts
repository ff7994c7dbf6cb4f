import { createHash } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import fc from 'fast-check';
import { ConnectionRefusedError, DatabaseError, QueryTypes } from 'sequelize';
import sharp from 'sharp';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bareTreatment, parseTreatment } from '../../core/treatment/schema';
import { exactly } from '../../core/engine/lay';
import { decode, encode } from '../../core/colour/srgb';
import { forgetStates } from '../data/history';
import { SendOut } from '../data/models';
import { makeSendOut, takeUpLost, workOnSendOuts } from '../jobs/send-out';
import { jpegTurned, p3Profile, png8, tiff16 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { cleanName, titleFrom } from './import';
import { answerProblems } from './problem';
import { fileNameOf } from './send-outs';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await workOnSendOuts(server.services, server.queue);
});
afterAll(() => server.close());

const http = () => request(server.app);
const newSeries = async (title = 'Low water') =>
  (await http().post('/api/series').send({ title })).body as { id: string };
const bringIn = (seriesId: string, file: Buffer, name = 'picture.png') =>
  http().post(`/api/series/${seriesId}/photographs?again=1`).attach('file', file, name);
const photographIn = async (seriesId: string, file?: Buffer) => {
  const bytes = file ?? (await png8(60, 40, (x, y) => [x * 4, y * 6, 128]));
  const { status, body } = await bringIn(seriesId, bytes);
  expect(status).toBe(201);
  return body as {
    id: string;
    currentTakeId: string;
    sha256: string;
    takes: { id: string; letter: string }[];
  };
};
const steps = (...list: object[]) =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps: list });
const light = (exposure: number) => steps({ kind: 'light', settings: { exposure } });

describe('the server', () => {
  it('says how it is, and describes itself', async () => {
    expect((await http().get('/api/health')).body).toEqual({
      name: 'lampwash',
      ok: true,
      database: true,
      disk: 'well',
      passphrase: false,
    });
    const { body } = await http().get('/api/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths)).toContain('/api/takes/{id}/treatment');
    expect(body.paths['/api/takes/{id}/treatment'].put.requestBody).toBeTruthy();
    expect(body.paths['/api/photographs/{id}'].get.parameters[0]).toMatchObject({ name: 'id', in: 'path' });
  });

  it.each([
    ['get', '/assets/gone.js', {}, undefined, 404],
    ['get', '/api', {}, undefined, 404],
    ['get', '/api/nothing/at/all', {}, undefined, 404],
    ['post', '/api/nothing', { 'Content-Type': 'application/json' }, '{}', 404],
    ['put', '/api/series', { 'Content-Type': 'application/json' }, '{}', 405],
    ['delete', '/api/health', {}, undefined, 405],
    ['post', '/', {}, undefined, 405],
    ['patch', '/series/x', {}, undefined, 405],
    ['get', '/%ff', {}, undefined, 400],
    ['get', '/api/send-outs?series=%00', {}, undefined, 400],
    ['post', '/api/series', { 'Content-Type': 'application/json; charset=klingon' }, '{"title":"x"}', 415],
    [
      'post',
      '/api/series',
      { 'Content-Type': 'application/json', 'Content-Encoding': 'x' },
      '{"title":"x"}',
      415,
    ],
    [
      'post',
      '/api/series',
      { 'Content-Type': 'application/json', 'Content-Encoding': 'gzip' },
      '{"title":"x"}',
      400,
    ],
    ['post', '/api/series', { 'Content-Type': 'application/json' }, '{"title":"a\\u0000b"}', 400],
    ['post', '/api/series', { 'Content-Type': 'application/json' }, '{"title":"\\ud83d"}', 400],
    ['post', '/api/series', { 'Content-Type': 'application/json' }, '{"title":"x","\\ud83d":1}', 400],
  ] as const)('answers %s %s %j %s with %i', async (method, path, headers, body, status) => {
    const asked = http()[method](path).set(headers);
    const answer = await (body === undefined ? asked : asked.send(body));
    expect(answer.status).toBe(status);
    expect(answer.type).toBe('application/problem+json');
    expect(answer.body).toMatchObject({ status, title: expect.any(String) as string });
    if (status === 405) expect(answer.headers.allow).toMatch(/^(GET|POST)/);
  });

  it('keeps texts of every script, escaped or not', async () => {
    const title = 'Überfahrt 渡し船 \u{1F6F6} \\u0000';
    const { status, body } = await http()
      .post('/api/series')
      .set('Content-Type', 'application/json')
      .send(
        JSON.stringify({ title }).replace(
          /[^ -~]/g,
          c => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`,
        ),
      );
    expect(status).toBe(201);
    expect((body as { title: string }).title).toBe(title);
  });

  it('refuses a list with an id twice, by its place', async () => {
    const series = await newSeries();
    const { id, currentTakeId } = await photographIn(series.id);
    const settings = { format: 'png' };
    const sent = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [currentTakeId, currentTakeId], settings });
    expect(sent.status).toBe(400);
    expect(sent.body.detail).toBe(`takes[1]: ${currentTakeId} is there twice`);
    const order = await http()
      .put(`/api/series/${series.id}/order`)
      .send({ photographs: [id, id] });
    expect(order.status).toBe(400);
  });

  it('refuses a second file in a form, and keeps neither', async () => {
    const series = await newSeries();
    const file = await png8(8, 8, () => [1, 2, 3]);
    const { status, body } = await http()
      .post(`/api/series/${series.id}/photographs`)
      .attach('file', file, 'a.png')
      .attach('file', file, 'b.png');
    expect(status).toBe(400);
    expect(body.title).toContain('second file');
    expect((await http().get(`/api/series/${series.id}`)).body.photographs).toEqual([]);
    expect(await readdir(join(server.services.config.cacheFolder, 'uploads'))).toEqual([]);
  });

  it.each([`${'ß'.repeat(196)}.png`, `ﬃ${'a'.repeat(195)}.png`, `${'\u{1F6F6}'.repeat(150)}.png`])(
    'takes in a file whose name grows or is cut: %s',
    async name => {
      const series = await newSeries();
      const { status, body } = await bringIn(series.id, await png8(8, 8, () => [1, 2, 3]), name);
      expect(status).toBe(201);
      expect(body.title.length).toBeLessThanOrEqual(200);
      expect(body.title).not.toMatch(/\p{Surrogate}/u);
    },
  );

  it('says that the disk is full, or the database away, and what to do', () => {
    const answers = answerProblems(server.services.log);
    const told = (error: unknown) => {
      let body: { status: number; title: string; detail: string } | undefined;
      const res = { status: () => res, type: () => res, json: (sent: typeof body) => (body = sent) };
      // eslint-disable-next-line no-restricted-syntax -- as much of a request and an answer as it uses
      answers(error, { path: '/' } as never, res as never, () => undefined);
      return body!;
    };
    const full = Object.assign(new Error('write'), { code: 'ENOSPC' });
    const inDatabase = new DatabaseError(
      Object.assign(new Error('could not extend'), { code: '53100', sql: '' }),
    );
    for (const error of [full, inDatabase])
      expect(told(error)).toMatchObject({ status: 507, title: 'The disk is full.' });
    const away = new ConnectionRefusedError(new Error('refused'));
    expect(told(away)).toMatchObject({ status: 503, title: 'The database is away.' });
    expect(told(new Error('odd'))).toMatchObject({ status: 500, title: 'Something failed on the server.' });
  });

  it('answers in problem+json, naming the wrong place', async () => {
    const wrong = await http().post('/api/series').send({ title: '' });
    expect(wrong.status).toBe(400);
    expect(wrong.type).toBe('application/problem+json');
    expect(wrong.body.detail).toContain('title');
    expect((await http().get('/api/series/not-an-id')).status).toBe(400);
    expect((await http().get('/api/series/00000000-0000-4000-8000-000000000000')).status).toBe(404);
    expect((await http().get('/api/nothing')).status).toBe(404);
    const broken = await http().post('/api/series').set('Content-Type', 'application/json').send('{"title":');
    expect(broken.status).toBe(400);
    const large = await http()
      .post('/api/series')
      .send({ title: 'x', caption: 'y'.repeat(5_000_000) });
    expect(large.status).toBe(413);
    expect((await http().post('/api/series').send({ title: 'x', colour: 1 })).body.detail).toContain(
      'colour',
    );
  });

  it('refuses foreign hosts and pages, and sends strict headers', async () => {
    expect((await http().get('/api/health').set('Host', 'evil.example')).status).toBe(421);
    expect(
      (await http().post('/api/series').set('Origin', 'http://evil.example').send({ title: 'x' })).status,
    ).toBe(403);
    expect((await http().get('/api/series').set('Sec-Fetch-Site', 'cross-site')).status).toBe(403);
    const own = await http()
      .post('/api/series')
      .set('Host', '127.0.0.1:4870')
      .set('Origin', 'http://127.0.0.1:4870')
      .send({ title: 'Own' });
    expect(own.status).toBe(201);
    const { headers } = await http().get('/api/health');
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).not.toContain('unsafe');
    const scripts = (path: string) =>
      http()
        .get(path)
        .then(r => r.headers['content-security-policy'].match(/script-src ([^;]*)/)?.[1]);
    expect(await scripts('/')).toBe("'self'");
    expect(await scripts('/assets/index-a.js')).toBe("'self'");
    expect(await scripts('/assets/worker-a.js')).toBe("'self' 'wasm-unsafe-eval'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
  });
});

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

describe('series', () => {
  it('keep an order, refuse a stale one, and give back what was taken out', async () => {
    const series = await newSeries();
    const ids: string[] = [];
    for (let i = 0; i < 3; i++) ids.push((await photographIn(series.id)).id);
    const order = async () =>
      ((await http().get(`/api/series/${series.id}`)).body.photographs as { id: string }[]).map(p => p.id);
    expect(await order()).toEqual(ids);
    const turned = [ids[2], ids[0], ids[1]];
    expect((await http().put(`/api/series/${series.id}/order`).send({ photographs: turned })).status).toBe(
      200,
    );
    expect(await order()).toEqual(turned);
    expect(
      (
        await http()
          .put(`/api/series/${series.id}/order`)
          .send({ photographs: ids.slice(1) })
      ).status,
    ).toBe(409);
    await http().delete(`/api/photographs/${ids[0]}`);
    expect(await order()).toEqual([ids[2], ids[1]]);
    await http().post(`/api/photographs/${ids[0]}/restore`);
    expect(await order()).toEqual(turned);
  });

  it('photographs arriving together all get a place of their own', async () => {
    const series = await newSeries();
    const file = await png8(20, 20, () => [9, 9, 9]);
    await Promise.all(Array.from({ length: 6 }, (_, i) => bringIn(series.id, file, `p${i}.png`)));
    const places = await server.services.sequelize.query<{ n: number }>(
      'SELECT count(DISTINCT place)::int AS n FROM photographs WHERE series_id = :id',
      { replacements: { id: series.id }, type: QueryTypes.SELECT },
    );
    expect(places[0].n).toBe(6);
  });

  it('show on the shelf with their counts, and leave it and return', async () => {
    const series = await newSeries('The shelf test');
    const photograph = await photographIn(series.id);
    await http()
      .put(`/api/takes/${photograph.currentTakeId}/treatment`)
      .send({ revision: 1, treatment: steps({ kind: 'mono' }), label: 'Add mono' });
    const find = async () =>
      ((await http().get('/api/series')).body as { id: string }[]).find(s => s.id === series.id);
    expect(await find()).toMatchObject({
      title: 'The shelf test',
      photographs: 1,
      treated: 1,
      stack: [{ takeId: photograph.currentTakeId, revision: 2 }],
      last: { photographId: photograph.id },
    });
    await http().delete(`/api/series/${series.id}`);
    expect(await find()).toBeUndefined();
    expect((await http().get(`/api/series/${series.id}`)).status).toBe(404);
    await http().post(`/api/series/${series.id}/restore`);
    expect(await find()).toBeTruthy();
  });
});

describe('takes', () => {
  it('save from a revision, and refuse a stale save with the newest state', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const put = (revision: number, exposure: number) =>
      http()
        .put(`/api/takes/${id}/treatment`)
        .send({ revision, treatment: light(exposure), label: 'Light exposure' });
    expect((await put(1, 0.5)).body).toMatchObject({ revision: 2, undo: 'Light exposure', redo: null });
    const stale = await put(1, 0.9);
    expect(stale.status).toBe(409);
    expect(stale.body.newest).toMatchObject({ revision: 2, undo: 'Light exposure' });
    expect((await http().get(`/api/takes/${id}`)).body.treatment).toEqual(light(0.5));
    expect((await put(2, 0.9)).status).toBe(200);
  });

  it('of many saves from one revision exactly one is taken', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        http()
          .put(`/api/takes/${id}/treatment`)
          .send({ revision: 1, treatment: light(i / 10) }),
      ),
    );
    expect(answers.filter(a => a.status === 200)).toHaveLength(1);
    expect(answers.filter(a => a.status === 409)).toHaveLength(7);
  });

  it('refuse a treatment that is wrong, naming the place', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const treatment = { ...bareTreatment(), steps: [{ kind: 'light', settings: { exposure: 9 } }] };
    const { status, body } = await http().put(`/api/takes/${id}/treatment`).send({ revision: 1, treatment });
    expect(status).toBe(400);
    expect(body.detail).toContain('steps[0].settings.exposure');
    expect((await http().get(`/api/takes/${id}`)).body.revision).toBe(1);
  });

  it('one that an earlier version saved is read with the settings that it lacks', async () => {
    const { id } = await newSeries();
    const { currentTakeId } = await photographIn(id);
    await http()
      .put(`/api/takes/${currentTakeId}/treatment`)
      .send({ revision: 1, treatment: light(1) });
    await server.services.sequelize.query(
      `UPDATE take_states SET patch = NULL, treatment = $2::jsonb - 'frame' - 'masks' - 'tables' #- '{steps,0,settings,gamma}'
       WHERE take_id = $1 AND number = 1`,
      { bind: [currentTakeId, JSON.stringify(light(1))] },
    );
    forgetStates();
    const { body } = await http().get(`/api/takes/${currentTakeId}`);
    expect(body.treatment).toEqual(JSON.parse(JSON.stringify(light(1))));
  });

  it('are ordered, every one once; a new one comes last', async () => {
    const { id } = await photographIn((await newSeries()).id);
    const make = async () =>
      ((await http().post(`/api/photographs/${id}/takes`).send({})).body as { id: string }).id;
    const [b, c] = [await make(), await make()];
    const takesOf = async () =>
      ((await http().get(`/api/photographs/${id}`)).body as { takes: { id: string; letter: string }[] })
        .takes;
    const [a] = (await takesOf()).map(t => t.id);
    const order = (takes: string[]) => http().patch(`/api/photographs/${id}`).send({ takes });
    expect((await order([c, a, b])).status).toBe(200);
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CAB');
    await make();
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CABD');
    for (const wrong of [
      [c, a],
      [c, a, b, b],
      [c, a, b, id],
    ]) {
      expect((await order(wrong)).status).toBeGreaterThanOrEqual(400);
    }
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CABD');
  });
  it('undo and redo follow any sequence of edits, as a simple model does', async () => {
    const series = await newSeries();
    const file = await png8(8, 8, () => [50, 60, 70]);
    await fc.assert(
      fc.asyncProperty(fc.array(fc.constantFrom('edit', 'undo', 'redo'), { maxLength: 14 }), async moves => {
        const { currentTakeId: id } = await photographIn(series.id, file);
        const past: number[] = [];
        const future: number[] = [];
        let now = 0;
        let revision = 1;
        let n = 0;
        for (const move of moves) {
          if (move === 'edit') {
            past.push(now);
            future.length = 0;
            now = ++n / 10;
            await http()
              .put(`/api/takes/${id}/treatment`)
              .send({ revision, treatment: light(now), label: `e${n}` });
          } else {
            const [from, to] = move === 'undo' ? [past, future] : [future, past];
            if (from.length) {
              to.push(now);
              now = from.pop()!;
            }
            await http().post(`/api/takes/${id}/${move}`).send({ revision });
          }
          revision++;
          const { body } = await http().get(`/api/takes/${id}`);
          expect(body.revision).toBe(revision);
          expect(body.treatment.steps[0]?.settings.exposure ?? 0).toBe(now);
          expect([body.undo !== null, body.redo !== null]).toEqual([past.length > 0, future.length > 0]);
        }
      }),
      { numRuns: 12 },
    );
  }, 120_000);

  it('are copied, named, put aside and brought back; the last one stays', async () => {
    const photograph = await photographIn((await newSeries()).id);
    const a = photograph.currentTakeId;
    expect((await http().delete(`/api/takes/${a}`)).status).toBe(409);
    await http()
      .put(`/api/takes/${a}/treatment`)
      .send({ revision: 1, treatment: light(1) });
    const b = (await http().post(`/api/photographs/${photograph.id}/takes`).send({ from: a })).body;
    expect(b).toMatchObject({ letter: 'B', treatment: light(1), undo: null });
    await http().patch(`/api/takes/${b.id}`).send({ name: 'Warmer' });
    const view = async () => (await http().get(`/api/photographs/${photograph.id}`)).body;
    expect(await view()).toMatchObject({
      currentTakeId: b.id,
      takes: [{ letter: 'A' }, { letter: 'B', name: 'Warmer' }],
    });
    await http().delete(`/api/takes/${b.id}`);
    expect(await view()).toMatchObject({ currentTakeId: a, takes: [{ letter: 'A' }] });
    expect((await http().post(`/api/photographs/${photograph.id}/takes`).send({})).body.letter).toBe('C');
    await http().post(`/api/takes/${b.id}/restore`);
    expect((await view()).takes.map((t: { letter: string }) => t.letter)).toEqual(['A', 'B', 'C']);
  });

  it('give small pictures that show their treatment', async () => {
    const photograph = await photographIn((await newSeries()).id, await png8(300, 200, () => [180, 120, 60]));
    const id = photograph.currentTakeId;
    const colour = async () => {
      const { body } = await http().get(`/api/takes/${id}/picture?edge=160`).responseType('blob');
      const { data, info } = await sharp(body as Buffer)
        .raw()
        .toBuffer({ resolveWithObject: true });
      expect(Math.max(info.width, info.height)).toBe(160);
      return Array.from(data.subarray(3000, 3003));
    };
    expect((await colour())[0]).toBeGreaterThan(170);
    await http()
      .put(`/api/takes/${id}/treatment`)
      .send({ revision: 1, treatment: steps({ kind: 'mono' }) });
    const [r, g, b] = await colour();
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(4);
    expect((await http().get(`/api/takes/${id}/picture?edge=999`)).status).toBe(400);
  });
});

describe('sending out', () => {
  const wait = async (id: string, state: string) => {
    for (let i = 0; i < 200; i++) {
      const row = await SendOut.findByPk(id);
      if (row?.state === state) return row;
      await new Promise(done => setTimeout(done, 50));
    }
    throw new Error(`never ${state}: ${(await SendOut.findByPk(id))?.state}`);
  };
  const fileOf = async (id: string) =>
    (await http().get(`/api/send-outs/${id}/file`).responseType('blob')) as {
      body: Buffer;
      headers: Record<string, string>;
    };

  it('makes a file whose pixels are the exact treatment, and says its progress', async () => {
    const series = await newSeries('Saltmarsh Ferry');
    const colour = [30_000, 45_000, 12_000] as const;
    const photograph = await photographIn(series.id, await tiff16(300, 200, () => colour));
    const treatment = steps(
      { kind: 'light', settings: { exposure: 0.3 } },
      { kind: 'mono', settings: { method: 'response', response: { green: 0.5 } } },
      {
        kind: 'split-tone',
        settings: { shadows: { hue: 220, saturation: 0.4 }, highlights: { hue: 40, saturation: 0.5 } },
      },
    );
    const takeId = photograph.currentTakeId;
    await http().put(`/api/takes/${takeId}/treatment`).send({ revision: 1, treatment });
    const { status, body } = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [takeId], settings: { format: 'tiff', bits: 16 } });
    expect(status).toBe(201);
    expect(body[0].fileName).toBe('saltmarsh-ferry-01-picture-a.tif');
    const done = await wait(body[0].id, 'done');
    expect(done.progress).toBe(1);
    const file = await fileOf(body[0].id);
    expect(file.headers['content-disposition']).toContain('saltmarsh-ferry-01-picture-a.tif');
    expect(Number(file.headers['content-length'])).toBe(file.body.length);
    const c = Float64Array.from(colour, v => v / 65535);
    exactly(treatment)(c);
    const raw = await sharp(file.body, { ignoreIcc: true })
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer();
    for (let k = 0; k < 3; k++)
      expect(Math.abs(raw.readUInt16LE(3000 + k * 2) / 65535 - c[k])).toBeLessThan(0.5 / 255);
  });

  it('sends the take as it was when it was sent', async () => {
    const series = await newSeries();
    const photograph = await photographIn(series.id, await png8(50, 50, () => [100, 100, 100]));
    const takeId = photograph.currentTakeId;
    const settings = { format: 'png' };
    const { body } = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [takeId], settings });
    await http()
      .put(`/api/takes/${takeId}/treatment`)
      .send({ revision: 1, treatment: light(2) });
    await wait(body[0].id, 'done');
    const raw = await sharp((await fileOf(body[0].id)).body)
      .raw()
      .toBuffer();
    expect(raw[0]).toBe(100);
  });

  it('stops, tries again, clears; says why something failed', async () => {
    const series = await newSeries();
    const photograph = await photographIn(series.id, await png8(40, 40, () => [10, 200, 100]));
    const row = await SendOut.create({
      takeId: photograph.currentTakeId,
      seriesId: series.id,
      treatment: light(1),
      settings: { format: 'png', bits: 8, profile: 'srgb', quality: 90, longEdge: 20 },
      fileName: 'x.png',
    });
    expect((await http().get(`/api/send-outs/${row.id}/file`)).status).toBe(409);
    expect((await http().delete(`/api/send-outs/${row.id}`)).status).toBe(409);
    expect((await http().post(`/api/send-outs/${row.id}/stop`).send({})).body.state).toBe('stopped');
    await makeSendOut(server.services, row.id);
    expect((await SendOut.findByPk(row.id))!.state).toBe('stopped');
    expect((await http().post(`/api/send-outs/${row.id}/retry`).send({})).body.state).toBe('waiting');
    await wait(row.id, 'done');
    const metadata = await sharp((await fileOf(row.id)).body).metadata();
    expect(metadata.width).toBe(20);
    expect((await http().delete(`/api/send-outs/${row.id}`)).status).toBe(204);
    expect((await http().get(`/api/send-outs?series=${series.id}`)).body).toEqual([]);

    const wrong = await SendOut.create({
      takeId: row.takeId,
      seriesId: row.seriesId,
      treatment: row.treatment,
      settings: row.settings,
      fileName: 'y.png',
    });
    const full = { pixels: () => Promise.reject(new Error('The disk is full.')) };
    // eslint-disable-next-line no-restricted-syntax -- a store that only fails
    await makeSendOut({ ...server.services, pictures: full as never }, wrong.id);
    const failed = (await SendOut.findByPk(wrong.id))!;
    expect(failed.state).toBe('failed');
    expect(failed.problem).toBe('The disk is full.');
  });

  it('takes up again what a server that is gone left half done, and nothing that still runs', async () => {
    const series = await newSeries();
    const photograph = await photographIn(series.id, await png8(30, 30, () => [9, 9, 200]));
    const base = {
      takeId: photograph.currentTakeId,
      seriesId: series.id,
      treatment: bareTreatment(),
      settings: { format: 'png', bits: 8, profile: 'srgb', quality: 90, longEdge: null } as const,
      fileName: 'x.png',
      state: 'running' as const,
    };
    const left = await SendOut.create({ ...base, touchedAt: new Date(Date.now() - 120_000) });
    const running = await SendOut.create({ ...base, touchedAt: new Date() });
    await takeUpLost(server.services, server.queue);
    await makeSendOut(server.services, running.id);
    await wait(left.id, 'done');
    expect((await SendOut.findByPk(running.id))!.state).toBe('running');
  });

  it('names files by series, number, title and take', () => {
    const settings = { format: 'jpeg', bits: 8, profile: 'srgb', quality: 90, longEdge: null } as const;
    expect(fileNameOf('The Keeper’s Kitchen', 5, 'Quinces & enamel jug', 'B', settings)).toBe(
      'the-keepers-kitchen-05-quinces-enamel-jug-b.jpg',
    );
    expect(fileNameOf('../..', 12, '///', 'AA', settings)).toBe('12-aa.jpg');
  });

  it('in grey holds the luminance of the toned picture', async () => {
    const series = await newSeries();
    const photograph = await photographIn(series.id, await png8(30, 30, () => [200, 90, 40]));
    const settings = { format: 'png', profile: 'grey', bits: 16 };
    const { body } = await http()
      .post('/api/send-outs')
      .send({ series: series.id, takes: [photograph.currentTakeId], settings });
    await wait(body[0].id, 'done');
    const raw = await sharp((await fileOf(body[0].id)).body, { ignoreIcc: true })
      .toColourspace('grey16')
      .raw({ depth: 'ushort' })
      .toBuffer();
    const y = 0.2126 * decode(200 / 255) + 0.7152 * decode(90 / 255) + 0.0722 * decode(40 / 255);
    expect(raw.readUInt16LE(200) / 65535).toBeCloseTo(encode(y), 3);
  });
});
