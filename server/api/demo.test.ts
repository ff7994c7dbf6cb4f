import { readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { DemoOnShelf } from '../../contract/demo';
import { FIRST } from '../../demo/seed';
import { Series } from '../data/models';
import { testServer, type TestServer } from '../testing/server';
import { createApp } from './app';

let server: TestServer;
let app: ReturnType<typeof createApp>;
let laid = 0;
beforeAll(async () => {
  server = await testServer();
  const { services, queue, folder } = server;
  app = createApp(services, queue, join(folder, 'no-interface'), null, {
    // As slow as it is, and counted; what it lays out is tried in demo/seed.test.ts.
    layOut: async () => {
      laid++;
      await new Promise(done => setTimeout(done, 150));
      for (const title of ['Test charts', 'Saltmarsh Ferry']) await Series.create({ title, demo: true });
    },
    photograph: { path: resolve('demo/photographs', FIRST), name: FIRST },
  });
});
afterAll(() => server.close());

// Each begins with an empty shelf.
beforeEach(async () => {
  await Series.destroy({ where: {} });
  laid = 0;
});

const titles = ({ series }: DemoOnShelf) => series.map(s => s.title).toSorted();

describe('the demo', () => {
  it('is laid out once, however often it is asked for, and not over one that is there', async () => {
    expect(titles((await request(app).get('/api/demo')).body)).toEqual([]);
    const asked = await Promise.all([1, 2, 3].map(() => request(app).post('/api/demo')));
    for (const { status, body } of asked) {
      expect(status).toBe(201);
      expect(titles(body)).toEqual(['Saltmarsh Ferry', 'Test charts']);
    }
    await request(app).post('/api/demo');
    expect(laid).toBe(1);
  });

  it('is taken off without what is not of it, kept among what is put aside, and laid out anew', async () => {
    await request(app).post('/api/demo');
    const own = await Series.create({ title: 'Own work' });
    expect(titles((await request(app).delete('/api/demo')).body)).toEqual([]);
    const shelf = (await request(app).get('/api/series')).body as { title: string }[];
    expect(shelf.map(s => s.title)).toEqual(['Own work']);
    const aside = (await request(app).get('/api/put-aside')).text;
    expect(aside).toContain('Saltmarsh Ferry');
    expect(titles((await request(app).post('/api/demo')).body)).toHaveLength(2);
    expect(laid).toBe(2);
    expect((await Series.findByPk(own.id))!.deletedAt).toBeNull();
  });

  it('gives its photograph byte for byte; a server without one says so', async () => {
    const { body, headers } = await request(app)
      .get('/api/demo/photograph')
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (part: Buffer) => parts.push(part));
        res.on('end', () => done(null, Buffer.concat(parts)));
      });
    expect(headers['content-type']).toBe('image/jpeg');
    expect(Buffer.compare(body as Buffer, await readFile(resolve('demo/photographs', FIRST)))).toBe(0);
    for (const asked of [
      request(server.app).post('/api/demo'),
      request(server.app).get('/api/demo/photograph'),
    ]) {
      const { status, body: problem } = await asked;
      expect(status).toBe(404);
      expect(problem.title).toMatch(/does not ship/);
    }
  });
});
