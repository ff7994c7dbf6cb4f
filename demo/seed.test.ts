import { resolve } from 'node:path';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { testServer, type TestServer } from '../server/testing/server';
import type { SeriesEvenness } from '../contract/evenness';
import type { Series as SeriesView } from '../contract/series';
import { evenness } from '../core/analysis/evenness';
import type { Treatment } from '../core/treatment/treatment';
import { seedDemo } from './seed';

const photographs = resolve('demo/photographs');

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await seedDemo(server.services, photographs);
}, 120_000);
afterAll(() => server.close());

it('the demo fills an empty shelf once', async () => {
  await seedDemo(server.services, photographs);
  const shelf = (await request(server.app).get('/api/series')).body;
  expect(shelf.map((s: { title: string }) => s.title)).toEqual(['Saltmarsh Ferry', 'Test charts']);
  expect(shelf[0].photographs).toBeGreaterThanOrEqual(12);
  // One is left bare.
  expect(shelf[0].treated).toBe(shelf[0].photographs - 1);
});

it('of its series the blue one and the bare one fall out, and nobody else', async () => {
  const shelf = (await request(server.app).get('/api/series')).body as { id: string }[];
  const { body: series } = await request(server.app).get(`/api/series/${shelf[0].id}`);
  const titles = new Map((series as SeriesView).photographs.map(p => [p.id, p.title]));
  let answer: SeriesEvenness;
  do answer = (await request(server.app).get(`/api/series/${shelf[0].id}/evenness`)).body as SeriesEvenness;
  while (answer.waiting > 0);
  const { placed } = evenness(answer.photographs.map(p => p.measures));
  const fallen = answer.photographs.filter((_, i) => placed[i]?.falls.length);
  expect(fallen.map(p => titles.get(p.id))).toEqual(['Reeds, first frost']);
  const blue = placed[answer.photographs.indexOf(fallen[0])]!;
  expect(blue.falls[0]).toMatchObject({ what: 'shadows', way: 'cooler' });
  expect(answer.photographs.filter(p => p.bare).map(p => titles.get(p.id))).toEqual(['Bow and warp']);
}, 60_000);

it('the blue one lies within the spread once its own treatment is fitted to the series', async () => {
  const http = request(server.app);
  const shelf = (await http.get('/api/series')).body as { id: string }[];
  const series = (await http.get(`/api/series/${shelf[0].id}`)).body as SeriesView;
  const blue = series.photographs.find(p => p.title === 'Reeds, first frost')!;
  const before = (await http.get(`/api/takes/${blue.currentTakeId}`)).body as { revision: number };
  const fitted = (await http.post(`/api/takes/${blue.currentTakeId}/fit`)).body as { treatment: Treatment };
  expect(fitted.treatment.steps.map(s => s.kind)).toEqual(expect.arrayContaining(['mono', 'baths', 'grain']));
  // Nothing is changed by asking.
  const after = (await http.get(`/api/takes/${blue.currentTakeId}`)).body as { revision: number };
  expect(after.revision).toBe(before.revision);
  await http.post(`/api/photographs/${blue.id}/takes`).send({ treatment: fitted.treatment });
  let answer: SeriesEvenness;
  do answer = (await http.get(`/api/series/${shelf[0].id}/evenness`)).body as SeriesEvenness;
  while (answer.waiting > 0);
  const { placed } = evenness(answer.photographs.map(p => p.measures));
  expect(placed.flatMap(p => p?.falls ?? [])).toEqual([]);
  await http.patch(`/api/photographs/${blue.id}`).send({ currentTakeId: blue.currentTakeId });
}, 90_000);

it('its photographs follow the look that it shares, but for the blue one and the bare one', async () => {
  const shelf = (await request(server.app).get('/api/series')).body as { id: string; photographs: number }[];
  const { body: looks } = await request(server.app).get(`/api/series/${shelf[0].id}/looks`);
  expect(looks).toEqual([expect.objectContaining({ name: 'Ferry brown', uses: shelf[0].photographs - 2 })]);
});
