import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sendOutSettings } from '../../contract/send-outs';
import { parseTreatment } from '../../core/treatment/schema';
import { SendOut } from '../data/models';
import type { PictureStore } from '../pictures/store';
import type { Services } from '../services';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';
import { makeSendOut, takeUpLost } from './send-out';

let server: TestServer;
let series: { id: string };
let takeId: string;
beforeAll(async () => {
  server = await testServer();
  const http = request(server.app);
  series = (await http.post('/api/series').send({ title: 'Low water' })).body as { id: string };
  const file = await png8(30, 20, () => [90, 120, 60]);
  const { body } = await http.post(`/api/series/${series.id}/photographs`).attach('file', file, 'a.png');
  takeId = (body as { currentTakeId: string }).currentTakeId;
});
afterAll(() => server.close());

const rowOf = (more: object = {}) => ({
  takeId,
  seriesId: series.id,
  treatment: parseTreatment({ format: 'lampwash-treatment', version: 1 }),
  settings: sendOutSettings.parse({ format: 'png' }),
  fileName: 'low-water.png',
  ...more,
});
const longAgo = () => new Date(Date.now() - 3_600_000);
const jobsFor = async (id: string): Promise<number> => {
  const [rows] = await server.services.sequelize.query(
    `SELECT count(*)::int AS count FROM jobs.job WHERE data->>'id' = $1 AND state = 'created'`,
    { bind: [id] },
  );
  return (rows[0] as { count: number }).count;
};

/** The services of a server that is held up where it wants pixels, until it is let go. */
function heldUp(more: Partial<Services> = {}) {
  let letGo = () => {};
  let arrive = () => {};
  const arrived = new Promise<void>(done => (arrive = done));
  const gate = new Promise<void>(done => (letGo = done));
  const { pictures } = server.services;
  const pixels: PictureStore['pixels'] = async (...asked) => {
    arrive();
    await gate;
    return pictures.pixels(...asked);
  };
  const services: Services = {
    ...server.services,
    pictures: Object.assign(Object.create(pictures) as PictureStore, { pixels }),
    ...more,
  };
  return { services, arrived, letGo: () => letGo() };
}

// Nothing makes what is asked for but the tests themselves.
describe('a send-out', () => {
  it('is in the queue when it is in the list, and in neither when something fails in between', async () => {
    let id = '';
    const { sequelize } = server.services;
    const failing = sequelize.transaction(async transaction => {
      ({ id } = await SendOut.create(rowOf(), { transaction }));
      await server.queue.ask('send-out', [id], transaction);
      throw new Error('killed');
    });
    await expect(failing).rejects.toThrow('killed');
    expect(await SendOut.findByPk(id)).toBeNull();
    expect(await jobsFor(id)).toBe(0);

    const { body } = await request(server.app)
      .post('/api/send-outs')
      .send({ series: series.id, takes: [takeId], settings: { format: 'png' } });
    expect(await jobsFor((body as { id: string }[])[0].id)).toBe(1);
  });

  it('that waits for nobody is asked for again, once', async () => {
    const { id } = await SendOut.create(rowOf());
    await takeUpLost(server.services, server.queue);
    await takeUpLost(server.services, server.queue);
    expect(await jobsFor(id)).toBe(1);
  });

  it('that a silent server left is taken up; what that server does later changes nothing', async () => {
    const { id } = await SendOut.create(rowOf());
    const silent = heldUp();
    const first = makeSendOut(silent.services, id);
    await silent.arrived;
    await SendOut.update({ touchedAt: longAgo() }, { where: { id } });
    await takeUpLost(server.services, server.queue);
    expect((await SendOut.findByPk(id))!.state).toBe('waiting');

    const second = heldUp();
    const again = makeSendOut(second.services, id);
    await second.arrived;
    silent.letGo();
    await first;
    expect(await SendOut.findByPk(id)).toMatchObject({ state: 'running', attempt: 2, resultSha256: null });
    second.letGo();
    await again;
    expect(await SendOut.findByPk(id)).toMatchObject({ state: 'done', attempt: 2, progress: 1 });
  });

  it('that is under way when the server is stopped waits for the next one, not failed', async () => {
    const { id } = await SendOut.create(rowOf());
    const controller = new AbortController();
    const stopped = heldUp({ closing: controller.signal });
    const made = makeSendOut(stopped.services, id);
    await stopped.arrived;
    controller.abort(new Error('the server is being stopped'));
    stopped.letGo();
    await expect(made).rejects.toThrow('the server is being stopped');
    expect(await SendOut.findByPk(id)).toMatchObject({ state: 'waiting', progress: 0, problem: null });
  });

  it('that fails says why', async () => {
    const { id } = await SendOut.create(rowOf());
    const { services } = heldUp({
      pictures: Object.assign(Object.create(server.services.pictures) as PictureStore, {
        pixels: () => Promise.reject(new Error('the disk is full')),
      }),
    });
    await makeSendOut(services, id);
    expect(await SendOut.findByPk(id)).toMatchObject({ state: 'failed', problem: 'the disk is full' });
  });
});
