import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Batch as BatchView } from '../../contract/batches';
import type { Photograph as Photo } from '../../contract/photographs';
import { parseTreatment } from '../../core/treatment/schema';
import { Batch, BatchItem, Take } from '../data/models';
import { workOnBatch, workOnBatches } from '../jobs/batch';
import { batchOver, seriesOf as manyIn } from '../testing/many';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  await workOnBatches(server.services, server.queue);
});
afterAll(() => server.close());
const http = () => request(server.app);

const seriesOf = (count: number) => manyIn(server.app, count);
const over = (id: string) => batchOver(server.app, id);

const treatment = {
  format: 'lampwash-treatment',
  version: 1,
  steps: [{ kind: 'mono' }, { kind: 'tint', settings: { hue: 35 } }],
};
const lay = (series: { id: string; photographs: Photo[] }, more: object = {}) =>
  http()
    .post(`/api/series/${series.id}/batches`)
    .send({
      label: 'Carry over',
      photographs: series.photographs.map(p => p.id),
      into: 'current',
      work: { do: 'lay', laying: { how: 'instead' } },
      treatment,
      ...more,
    });
const photoOf = async (id: string) => (await http().get(`/api/photographs/${id}`)).body as Photo;
const kindsOf = async (photograph: { id: string }) => {
  const { currentTakeId } = await photoOf(photograph.id);
  const { body } = await http().get(`/api/takes/${currentTakeId}`);
  return (body.treatment as { steps: { kind: string; enabled: boolean; strength: number }[] }).steps;
};
const names = async (p: { id: string }) => (await kindsOf(p)).map(s => s.kind).join();
const undo = (id: string) => http().post(`/api/batches/${id}/undo`);

describe('a change of many', () => {
  it('is laid on each, as one more state of its take, and undone as one', async () => {
    const series = await seriesOf(4);
    const begun = await lay(series);
    expect(begun.status).toBe(201);
    const batch = await over(begun.body.id as string);
    expect(batch.items.map(i => i.state)).toEqual(['done', 'done', 'done', 'done']);
    for (const p of series.photographs) expect(await names(p)).toBe('mono,tint');

    // What was changed since stays, and is named; redo brings one back by its own history.
    const [first] = series.photographs;
    const take = (await http().get(`/api/takes/${first.currentTakeId}`)).body as { revision: number };
    await http()
      .put(`/api/takes/${first.currentTakeId}/treatment`)
      .send({ revision: take.revision, treatment: { ...treatment, steps: [{ kind: 'mono' }] } });
    const undone = (await undo(batch.id)).body as BatchView;
    expect(undone.state).toBe('undone');
    expect(undone.items.map(i => i.state)).toEqual(['done', 'undone', 'undone', 'undone']);
    expect(undone.items[0].problem).toMatch(/changed since/);
    expect(await names(first)).toBe('mono');
    expect(await names(series.photographs[1])).toBe('');
  });

  it('is done again after it was undone, also by another worker’s hands', async () => {
    const series = await seriesOf(3);
    const { id } = await over((await lay(series)).body.id as string);
    const redo = () => http().post(`/api/batches/${id}/redo`);
    // What stands is not done twice.
    expect((await redo()).body).toMatchObject({ state: 'done' });
    await undo(id);
    for (const p of series.photographs) expect(await names(p)).toBe('');
    await redo();
    expect((await over(id)).items.map(i => i.state)).toEqual(['done', 'done', 'done']);
    for (const p of series.photographs) expect(await names(p)).toBe('mono,tint');
    await undo(id);
    for (const p of series.photographs) expect(await names(p)).toBe('');
    const made = await over((await lay(series, { into: 'new', label: 'New' })).body.id as string);
    await undo(made.id);
    await http().post(`/api/batches/${made.id}/redo`);
    await over(made.id);
    const { takes } = await photoOf(series.photographs[0].id);
    expect(takes.map(t => t.name)).toEqual(['', 'New']);
    expect(await names(series.photographs[0])).toBe('mono,tint');
  });

  it('goes into new takes, which undo takes away again', async () => {
    const series = await seriesOf(2);
    const batch = await over((await lay(series, { into: 'new', label: 'Harbour cold' })).body.id as string);
    expect(batch.items.map(i => i.state)).toEqual(['done', 'done']);
    const made = await photoOf(series.photographs[0].id);
    expect(made.takes.map(t => t.name)).toEqual(['', 'Harbour cold']);
    expect(await names(series.photographs[0])).toBe('mono,tint');
    await undo(batch.id);
    const back = await photoOf(series.photographs[0].id);
    expect(back.takes).toHaveLength(1);
    expect(back.currentTakeId).toBe(series.photographs[0].currentTakeId);
  });

  it('switches and strengthens steps of a kind, and says where there was none', async () => {
    const series = await seriesOf(3);
    const two = { ...series, photographs: series.photographs.slice(0, 2) };
    await over((await lay(two)).body.id as string);
    const change = async (work: object) =>
      over((await lay(series, { work, treatment: undefined })).body.id as string);
    const off = await change({ do: 'switch', kind: 'tint', on: false });
    expect(off.items.map(i => i.state)).toEqual(['done', 'done', 'same']);
    expect((await kindsOf(series.photographs[0])).map(s => s.enabled)).toEqual([true, false]);
    await change({ do: 'strength', kind: 'mono', strength: 0.4 });
    expect((await kindsOf(series.photographs[1]))[0].strength).toBe(0.4);
  });

  it('stops: what waits is left as it is, and is not gone on with', async () => {
    const series = await seriesOf(2);
    // Begun, and not taken up yet.
    const { id } = await Batch.create({
      seriesId: series.id,
      label: 'Grain off',
      work: { do: 'switch', kind: 'grain', on: false, into: 'current' },
    });
    const items = series.photographs.map((p, place) => ({
      batchId: id,
      place,
      photographId: p.id,
      command: randomUUID(),
    }));
    await BatchItem.bulkCreate(items);
    expect((await undo(id)).status).toBe(409);
    const stopped = await http().post(`/api/batches/${id}/stop`);
    expect(stopped.body.state).toBe('stopped');
    await workOnBatch(server.services, id);
    expect((await over(id)).items.map(i => i.state)).toEqual(['waiting', 'waiting']);
  });

  it('is done once, also where it is killed between the change and the note of it', async () => {
    const series = await seriesOf(1);
    const added = { work: { do: 'lay', laying: { how: 'added' } } };
    const batch = await over((await lay(series, added)).body.id as string);
    await Batch.update({ state: 'running' }, { where: { id: batch.id } });
    await BatchItem.update(
      { state: 'waiting', takeId: null, afterState: null },
      { where: { batchId: batch.id } },
    );
    await workOnBatch(server.services, batch.id);
    expect(await names(series.photographs[0])).toBe('mono,tint');
    const take = (await Take.findByPk(series.photographs[0].currentTakeId))!;
    expect(await BatchItem.findOne({ where: { batchId: batch.id } })).toMatchObject({
      state: 'done',
      afterState: take.currentState,
    });
    await undo(batch.id);
    expect(await names(series.photographs[0])).toBe('');
  });

  it('is done once by two workers at once', async () => {
    const series = await seriesOf(3);
    for (const into of ['new', 'current'] as const) {
      const { id } = await Batch.create({
        seriesId: series.id,
        label: 'Twice',
        work: {
          do: 'lay',
          treatment: parseTreatment(treatment),
          laying: { how: 'added', frame: false, painted: false },
          into,
        },
      });
      await BatchItem.bulkCreate(
        series.photographs.map((p, place) => ({
          batchId: id,
          place,
          photographId: p.id,
          command: randomUUID(),
        })),
      );
      await Promise.all([1, 2, 3].map(() => workOnBatch(server.services, id)));
      expect((await over(id)).items.map(i => i.state)).toEqual(['done', 'done', 'done']);
      for (const { id: photograph } of series.photographs) {
        expect((await photoOf(photograph)).takes).toHaveLength(2);
        expect(await names({ id: photograph })).toBe(into === 'new' ? 'mono,tint' : 'mono,mono,tint,tint');
      }
    }
  });

  it('names what cannot be laid on, and goes on with the others', async () => {
    const series = await seriesOf(2);
    const many = { ...treatment, steps: Array.from({ length: 199 }, () => ({ kind: 'light' })) };
    const one = { ...series, photographs: series.photographs.slice(0, 1) };
    await over((await lay(one, { treatment: many })).body.id as string);
    const added = { work: { do: 'lay', laying: { how: 'added' } } };
    const batch = await over((await lay(series, added)).body.id as string);
    expect(batch.items.map(i => i.state)).toEqual(['failed', 'done']);
    expect(batch.items[0].problem).toBe('more than 200 steps');
  });

  it.each([
    ['no treatment', { treatment: undefined }, 400, 'treatment'],
    ['an unknown kind', { work: { do: 'switch', kind: 'magic', on: true } }, 400, 'magic'],
    ['a wrong treatment', { treatment: { ...treatment, steps: [{ kind: 'magic' }] } }, 400, 'magic'],
    [
      'a photograph of another series',
      { photographs: ['00000000-0000-4000-8000-000000000000'] },
      404,
      'photograph',
    ],
    ['no photographs', { photographs: [] }, 400, 'photographs'],
  ])('is refused with %s', async (_, more, status, problem) => {
    const series = await seriesOf(1);
    const refused = await lay(series, more);
    expect(refused.status).toBe(status);
    expect(JSON.stringify(refused.body)).toContain(problem);
  });
});
