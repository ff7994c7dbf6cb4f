import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sendOutSettings } from '../../contract/send-outs';
import { bareTreatment } from '../../core/treatment/treatment';
import { exactly } from '../../core/engine/lay';
import { decode, encode } from '../../core/colour/srgb';
import { SendOut } from '../data/models';
import { makeSendOut, takeUpLost, workOnSendOuts } from '../jobs/send-out';
import { asking, light, treatmentOf } from '../testing/asking';
import { png8, tiff16 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await workOnSendOuts(server.services, server.queue);
});
afterAll(() => server.close());

const { http, newSeries, photographIn } = asking(() => server);

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
    const treatment = treatmentOf(
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
      settings: sendOutSettings.parse({ format: 'png', size: { by: 'long-edge', pixels: 20 } }),
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
      settings: sendOutSettings.parse({ format: 'png' }),
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
