import { resolve } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Series } from '../server/data/models';
import { testServer, type TestServer } from '../server/testing/server';
import { seedDemo } from './seed';

const photographs = resolve('demo/photographs');

let server: TestServer;
beforeAll(async () => void (server = await testServer()));
afterAll(() => server.close());

it('the demo fills an empty shelf once', async () => {
  await seedDemo(server.services, photographs);
  await seedDemo(server.services, photographs);
  const shelf = (await request(server.app).get('/api/series')).body;
  expect(shelf.map((s: { title: string }) => s.title)).toEqual(['Saltmarsh Ferry', 'Test charts']);
  expect(shelf[0].photographs).toBeGreaterThanOrEqual(12);
  // One is left bare.
  expect(shelf[0].treated).toBe(shelf[0].photographs - 1);
});

it('and never another', async () => {
  await Series.destroy({ where: {} });
  await Series.create({ title: 'Of my own' });
  await seedDemo(server.services, photographs);
  expect(await Series.count()).toBe(1);
});
