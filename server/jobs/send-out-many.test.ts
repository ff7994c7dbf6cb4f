import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { sendOutSettings } from '../../contract/send-outs';
import { parseTreatment } from '../../core/treatment/schema';
import { SendOut } from '../data/models';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { workOnSendOuts } from './send-out';

let server: TestServer;
beforeAll(async () => void (server = await testServer()));
afterAll(() => server.close());

const MANY = 40;

const settled = async (ids: string[]) => {
  for (let i = 0; i < 600; i++) {
    const rows = await SendOut.findAll({ where: { id: ids } });
    if (rows.every(row => row.state !== 'waiting' && row.state !== 'running')) return rows;
    await new Promise(done => setTimeout(done, 50));
  }
  throw new Error('never settled');
};

it('many send-outs, some left by a server that is gone and one newly asked for, are made once each', async () => {
  const http = request(server.app);
  const { body: series } = (await http.post('/api/series').send({ title: 'Low water' })) as {
    body: { id: string };
  };
  const file = await png8(30, 20, () => [90, 120, 60]);
  const { body } = await http.post(`/api/series/${series.id}/photographs`).attach('file', file, 'a.png');
  const takeId = (body as { currentTakeId: string }).currentTakeId;
  const asked = await http
    .post('/api/send-outs')
    .send({ series: series.id, takes: [takeId], settings: { format: 'jpeg' } });
  expect(asked.body).toHaveLength(1);
  // In the list and in no queue, as a killed server leaves them.
  const left = await SendOut.bulkCreate(
    Array.from({ length: MANY }, () => ({
      takeId,
      seriesId: series.id,
      treatment: parseTreatment({ format: 'lampwash-treatment', version: 1 }),
      settings: sendOutSettings.parse({ format: 'png' }),
      fileName: 'low-water.png',
    })),
  );
  await workOnSendOuts(server.services, server.queue);
  const rows = await settled([(asked.body as { id: string }[])[0].id, ...left.map(row => row.id)]);
  expect(rows.map(row => row.state)).toEqual(Array(MANY + 1).fill('done'));
  expect(rows.map(row => row.attempt)).toEqual(Array(MANY + 1).fill(1));
  expect(await SendOut.count({ where: { state: ['waiting', 'running'] } })).toBe(0);
}, 60_000);
