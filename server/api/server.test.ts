import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { ConnectionRefusedError, DatabaseError } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asking } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { answerProblems } from './problem';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const { http, newSeries, bringIn, photographIn } = asking(() => server);

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
