import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asking, treatmentOf } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const { http, newSeries, bringIn, photographIn } = asking(() => server);

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

  it('say what pigments they use, on what, and in how many photographs', async () => {
    const series = await newSeries('The palette test');
    const oxide = { kind: 'flat', colour: '#8c3f2c' };
    const washed = (area: string) => ({
      format: 'lampwash-treatment',
      version: 1,
      steps: [{ kind: 'mono' }, { kind: 'wash', mask: 'm1', settings: { pigment: oxide, depth: 0.4 } }],
      masks: [{ id: 'm1', name: area, parts: [{ kind: 'whole', op: 'add' }] }],
    });
    const palette = async () => (await http().get(`/api/series/${series.id}/palette`)).body as unknown;
    expect(await palette()).toEqual([]);
    const ids: string[] = [];
    for (const area of ['Hull', 'Boat']) {
      const photograph = await photographIn(series.id);
      ids.push(photograph.id);
      const saved = await http()
        .put(`/api/takes/${photograph.currentTakeId}/treatment`)
        .send({ revision: 1, treatment: washed(area), label: 'Tint' });
      expect(saved.status).toBe(200);
    }
    await photographIn(series.id);
    expect(await palette()).toEqual([
      { pigment: oxide, depth: 0.4, areas: ['Hull', 'Boat'], photographs: 2 },
    ]);
    await http().delete(`/api/photographs/${ids[0]}`);
    expect(await palette()).toMatchObject([{ areas: ['Boat'], photographs: 1 }]);
    expect((await http().get('/api/series/7d1f1c3e-0000-4000-8000-000000000000/palette')).status).toBe(404);
  });

  it('show on the shelf with their counts, and leave it and return', async () => {
    const series = await newSeries('The shelf test');
    const photograph = await photographIn(series.id);
    await http()
      .put(`/api/takes/${photograph.currentTakeId}/treatment`)
      .send({ revision: 1, treatment: treatmentOf({ kind: 'mono' }), label: 'Add mono' });
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
