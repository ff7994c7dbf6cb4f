import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Batch } from '../../contract/batches';
import type { SeriesLook } from '../../contract/shared-looks';
import { toFollow } from '../../core/treatment/shared';
import type { Treatment } from '../../core/treatment/treatment';
import { workOnBatches } from '../jobs/batch';
import { batchOver, seriesOf as manyIn } from '../testing/many';
import { testServer, type TestServer } from '../testing/server';

/** Looks that a series shares, followed by the takes that use them. */

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await workOnBatches(server.services, server.queue);
});
afterAll(() => server.close());
const http = () => request(server.app);

const seriesOf = (count: number) => manyIn(server.app, count);
const over = (id: string) => batchOver(server.app, id);
const treatmentOf = (steps: object[]) => ({ format: 'lampwash-treatment', version: 1, steps });
const brown = treatmentOf([{ kind: 'mono' }, { kind: 'tint', settings: { hue: 35 } }, { kind: 'grain' }]);
const share = async (seriesId: string, treatment: object = brown) =>
  (await http().post(`/api/series/${seriesId}/looks`).send({ name: 'Ferry brown', treatment }))
    .body as SeriesLook;
const shared = async (seriesId: string) =>
  (await http().get(`/api/series/${seriesId}/looks`)).body as SeriesLook[];
interface Shown {
  revision: number;
  treatment: Treatment;
}
const take = async (id: string) => (await http().get(`/api/takes/${id}`)).body as Shown;
const put = async (id: string, treatment: object) =>
  http()
    .put(`/api/takes/${id}/treatment`)
    .send({ revision: (await take(id)).revision, treatment, label: 'Look' });
const change = (look: SeriesLook, treatment: object, more: object = {}) =>
  http()
    .put(`/api/shared-looks/${look.id}`)
    .send({ revision: look.revision, treatment, ...more });
const withHue = ({ treatment }: SeriesLook, hue: number) => ({
  ...treatment,
  steps: treatment.steps.map(s => (s.kind === 'tint' ? { ...s, settings: { ...s.settings, hue } } : s)),
});
const tint = async (id: string) => (await take(id)).treatment.steps.find(s => s.kind === 'tint')!;
const hue = async (id: string) => ((await tint(id)).settings as { hue: number }).hue;

describe('a look that a series shares', () => {
  it('is among the series’ and not among those for all, and says how many photographs use it', async () => {
    const series = await seriesOf(3);
    const look = await share(series.id);
    expect(look).toMatchObject({ revision: 1, uses: 0, since: { 'r1-1': 1, 'r1-2': 1, 'r1-3': 1 } });
    expect(((await http().get('/api/looks')).body as { id: string }[]).map(l => l.id)).not.toContain(look.id);
    for (const p of series.photographs.slice(0, 2)) await put(p.currentTakeId, toFollow(look));
    expect((await shared(series.id)).map(l => [l.name, l.uses])).toEqual([['Ferry brown', 2]]);
    await put(series.photographs[0].currentTakeId, treatmentOf([{ kind: 'mono' }]));
    expect((await shared(series.id))[0].uses).toBe(1);
  });

  it('is followed by every take when it is changed, each keeping what it changed', async () => {
    const series = await seriesOf(4);
    const look = await share(series.id);
    const [a, b, c, d] = series.photographs.map(p => p.currentTakeId);
    for (const id of [a, b, c]) await put(id, toFollow(look));
    const own = (await take(b)).treatment;
    const steps = own.steps.map(s =>
      s.kind === 'tint'
        ? { ...s, settings: { ...s.settings, hue: 90 }, look: { ...s.look, changed: ['hue'] } }
        : s,
    );
    await put(b, { ...own, steps });
    const answer = (await change(look, withHue(look, 20), { except: c })).body as {
      look: SeriesLook;
      batchId: string;
    };
    expect(answer.look).toMatchObject({ revision: 2, uses: 3 });
    const batch = await over(answer.batchId);
    expect(batch).toMatchObject({
      label: 'Ferry brown changed',
      items: [{ state: 'done' }, { state: 'done' }],
    });
    expect([await hue(a), await hue(b), await hue(c)]).toEqual([20, 90, 35]);
    expect((await take(d)).treatment.steps).toEqual([]);
    expect((await tint(b)).look).toEqual({ id: look.id, revision: 2, step: 'r1-2', changed: ['hue'] });

    // One that was away follows with the next change; the take's own undo goes back behind it.
    const next = (await change(answer.look, withHue(answer.look, 50))).body as { batchId: string };
    await over(next.batchId);
    expect([await hue(a), await hue(b), await hue(c)]).toEqual([50, 90, 50]);
    await http()
      .post(`/api/takes/${a}/undo`)
      .send({ revision: (await take(a)).revision });
    expect(await hue(a)).toBe(20);
  });

  it('is changed once at a time, and never to nothing', async () => {
    const series = await seriesOf(1);
    const look = await share(series.id);
    expect((await change(look, withHue(look, 20))).body).toMatchObject({
      batchId: null,
      look: { revision: 2 },
    });
    const stale = await change(look, withHue(look, 60));
    expect([stale.status, (stale.body as { title: string }).title]).toEqual([
      409,
      'Ferry brown was changed elsewhere.',
    ]);
    const empty = await change({ ...look, revision: 2 }, treatmentOf([]));
    expect([empty.status, JSON.stringify(empty.body)]).toEqual([
      400,
      expect.stringContaining('at least one'),
    ]);
    expect((await change({ ...look, id: series.id }, brown)).status).toBe(404);
  });

  it('is named and put aside as others are; what followed it stays as it is', async () => {
    const series = await seriesOf(1);
    const look = await share(series.id);
    const [{ currentTakeId: id }] = series.photographs;
    await put(id, toFollow(look));
    await http().patch(`/api/looks/${look.id}`).send({ name: 'Brown' });
    expect((await shared(series.id))[0].name).toBe('Brown');
    await http().delete(`/api/looks/${look.id}`);
    expect(await shared(series.id)).toEqual([]);
    expect((await change(look, brown)).status).toBe(404);
    expect(await hue(id)).toBe(35);
    const aside = (await http().get('/api/put-aside')).body as { name: string; within: string }[];
    expect(aside).toContainEqual(expect.objectContaining({ name: 'Brown', within: 'Many' }));
    await http().post(`/api/looks/${look.id}/restore`);
    expect((await shared(series.id)).map(l => l.uses)).toEqual([1]);
  });

  it('is laid on many so that they follow it, and a strength set in many stays with them', async () => {
    const series = await seriesOf(2);
    const look = await share(series.id);
    const many = (more: object) =>
      http()
        .post(`/api/series/${series.id}/batches`)
        .send({ label: 'Many', photographs: series.photographs.map(p => p.id), into: 'current', ...more });
    const work = { do: 'lay', laying: { how: 'instead', as: { name: look.name, strength: 1 } } };
    await over(((await many({ work, treatment: toFollow(look) })).body as Batch).id);
    expect((await shared(series.id))[0].uses).toBe(2);
    await over(((await many({ work: { do: 'strength', kind: 'tint', strength: 0.4 } })).body as Batch).id);
    const [{ currentTakeId: id }] = series.photographs;
    expect((await tint(id)).look!.changed).toEqual(['step.strength']);
    const changed = (await change(look, withHue(look, 10))).body as { batchId: string };
    await over(changed.batchId);
    expect(await tint(id)).toMatchObject({ strength: 0.4, settings: { hue: 10 } });
  });
});
