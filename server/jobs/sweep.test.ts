import { randomBytes } from 'node:crypto';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import sharp from 'sharp';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PutAside } from '../../contract/put-aside';
import { NO_GRACE } from '../data/unused';
import { testServer, type TestServer } from '../testing/server';
import { workOnSendOuts } from './send-out';
import { sweep } from './sweep';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await workOnSendOuts(server.services, server.queue);
});
afterAll(() => server.close());

const http = () => request(server.app);
const sweepAll = () => sweep(server.services, { grace: NO_GRACE, young: 0 });

/** Bytes of the database after a vacuum, and of all caches. */
async function sizes() {
  const { sequelize } = server.services;
  await sequelize.query('VACUUM');
  const [row] = await sequelize.query<{ size: string }>(
    'SELECT pg_database_size(current_database()) AS size',
    {
      type: QueryTypes.SELECT,
    },
  );
  let caches = 0;
  for (const name of await readdir(join(server.folder, 'cache'), { recursive: true }).catch(() => [])) {
    const info = await stat(join(server.folder, 'cache', name)).catch(() => null);
    if (info?.isFile()) caches += info.size;
  }
  return { database: Number(row.size), caches };
}

/** How many pieces of files the database holds. */
async function chunks(): Promise<number> {
  const [{ count }] = await server.services.sequelize.query<{ count: number }>(
    'SELECT count(*)::int AS count FROM blob_chunks',
    { type: QueryTypes.SELECT },
  );
  return count;
}

/** A picture of noise, which no format makes small. */
const noise = () =>
  sharp(randomBytes(300 * 200 * 3), { raw: { width: 300, height: 200, channels: 3 } })
    .png()
    .toBuffer();

const newSeries = async () =>
  ((await http().post('/api/series').send({ title: 'Slack tide' })).body as { id: string }).id;
const bringIn = async (series: string) =>
  (
    await http()
      .post(`/api/series/${series}/photographs`)
      .attach('file', await noise(), 'a.png')
  ).body as {
    id: string;
    currentTakeId: string;
  };
const putAside = async () => (await http().get('/api/put-aside')).body as PutAside[];

it('sixty photographs brought in and sent out, and all of it removed for good: the space is back', async () => {
  await sweepAll();
  const [before, chunksBefore] = [await sizes(), await chunks()];
  const series = await newSeries();
  const takes: string[] = [];
  for (let i = 0; i < 60; i++) takes.push((await bringIn(series)).currentTakeId);
  const sent = await http()
    .post('/api/send-outs')
    .send({ series, takes, settings: { format: 'png' } });
  expect(sent.body).toHaveLength(60);
  for (;;) {
    const { body } = await http().get('/api/send-outs').query({ series });
    if ((body as { state: string }[]).every(each => each.state === 'done')) break;
    await new Promise(done => setTimeout(done, 100));
  }
  for (const take of takes.slice(0, 10)) await http().get(`/api/takes/${take}/picture`).query({ edge: 160 });
  const full = await sizes();
  expect(full.database).toBeGreaterThan(before.database * 1.5);
  expect(full.caches).toBeGreaterThan(before.caches + 60 * 300 * 200 * 3);

  await http().delete(`/api/series/${series}`);
  expect((await http().delete(`/api/put-aside/series/${series}`)).status).toBe(204);
  await sweepAll();
  expect(await chunks()).toBe(chunksBefore);
  // What other tests do beside this one may hold a vacuum up.
  await expect
    .poll(async () => (await sizes()).database, { timeout: 30_000, interval: 500 })
    .toBeLessThan(before.database * 1.1);
  const after = await sizes();
  expect(after.caches).toBeLessThanOrEqual(before.caches * 1.1);
}, 120_000);

it('what is put aside is listed with where it was, comes back, and goes after thirty days or by hand', async () => {
  const series = await newSeries();
  const [first, second] = [await bringIn(series), await bringIn(series)];
  const take = (await http().post(`/api/photographs/${first.id}/takes`).send({ name: 'warm' })).body as {
    id: string;
  };
  await http().delete(`/api/takes/${take.id}`);
  await http().delete(`/api/photographs/${second.id}`);
  const pigments = [{ name: 'Rust', pigment: { kind: 'flat', colour: '#a0522d' } }];
  const kept = (await http().post('/api/pigments').send({ pigments })).body as { id: string }[];
  await http().delete(`/api/pigments/${kept[0].id}`);
  expect((await putAside()).map(({ kind, name, within }) => [kind, name, within])).toEqual([
    ['pigment', 'Rust', ''],
    ['photograph', 'A', 'Slack tide'],
    ['take', 'B warm', 'A'],
  ]);
  const [, photograph, aside] = await putAside();
  expect([photograph.take?.id, aside.take?.id]).toEqual([second.currentTakeId, take.id]);
  for (const each of [photograph, aside]) {
    const picture = await http().get(`/api/takes/${each.take!.id}/picture`).query({ edge: 160 });
    expect(picture.headers['content-type']).toBe('image/jpeg');
  }
  // What lies in something that is put aside itself goes with it.
  await http().delete(`/api/series/${series}`);
  expect((await putAside()).map(each => each.kind)).toEqual(['series', 'pigment']);
  await http().post(`/api/series/${series}/restore`);

  const [{ at, goes }] = await putAside();
  expect(Date.parse(goes) - Date.parse(at)).toBe(30 * 86_400_000);
  // Nothing that is in use goes by hand.
  expect((await http().delete(`/api/put-aside/photograph/${first.id}`)).status).toBe(404);
  expect((await http().delete(`/api/put-aside/take/${take.id}`)).status).toBe(204);
  expect((await http().post(`/api/takes/${take.id}/restore`)).status).toBe(404);

  await sweepAll();
  expect((await putAside()).map(each => each.kind)).toEqual(['pigment', 'photograph']);
  await server.services.sequelize.query(
    `UPDATE photographs SET deleted_at = now() - interval '31 days' WHERE deleted_at IS NOT NULL`,
  );
  await sweepAll();
  expect((await putAside()).map(each => each.kind)).toEqual(['pigment']);
  expect((await http().get(`/api/photographs/${first.id}/original`)).status).toBe(200);
});

it('two servers that sweep at once, while the same file is brought in again and again, lose nothing', async () => {
  const series = await newSeries();
  const file = await noise();
  let isOver = false;
  const sweeping = [0, 1].map(async () => {
    // Files that are being taken in are young; rows are not looked at for that.
    while (!isOver) await sweep(server.services, { grace: NO_GRACE });
  });
  for (let i = 0; i < 25; i++) {
    const made = await http()
      .post(`/api/series/${series}/photographs?again=1`)
      .attach('file', file, `${i}.png`);
    expect(made.status).toBe(201);
    const { id } = made.body as { id: string };
    const original = await http().get(`/api/photographs/${id}/original`).responseType('blob');
    expect(file.equals(original.body as Buffer)).toBe(true);
    await http().delete(`/api/photographs/${id}`);
    await http().delete(`/api/put-aside/photograph/${id}`);
  }
  isOver = true;
  await Promise.all(sweeping);
}, 60_000);
