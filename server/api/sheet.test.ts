import request from 'supertest';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Photograph as PhotographView } from '../../contract/photographs';
import type { Series, SeriesSummary } from '../../contract/series';
import { Photograph, TakeState } from '../data/models';
import { readWhenTaken } from '../jobs/taken';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

/** What the Sheet and the Shelf order, name and lay out by. */

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const http = () => request(server.app);

const begin = async (title: string) => ((await http().post('/api/series').send({ title })).body as Series).id;
const bringIn = async (seriesId: string, file: Buffer, name: string) =>
  (await http().post(`/api/series/${seriesId}/photographs`).attach('file', file, name))
    .body as PhotographView;
const seriesAt = async (id: string) => (await http().get(`/api/series/${id}`)).body as Series;
let shade = 0;
const grey = () => png8(30, 20, () => [++shade % 256, 90, 90]);
const takenOn = (date: string, format: 'jpeg' | 'webp' | 'png' | 'avif') =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: { r: ++shade % 256, g: 80, b: 60 } } })
    .withExif({ IFD2: { DateTimeOriginal: date } })
    .toFormat(format)
    .toBuffer();

describe('when a photograph was taken', () => {
  it.each(['jpeg', 'webp', 'png', 'avif'] as const)(
    'is read from %s as the camera’s clock said',
    async format => {
      const series = await begin(`Dated ${format}`);
      const { taken } = await bringIn(series, await takenOn('2026:05:03 14:22:01', format), `a.${format}`);
      expect(taken).toBe('2026-05-03T14:22:01');
    },
  );

  it('is not known where the file does not say, or says nonsense', async () => {
    const series = await begin('Undated');
    expect((await bringIn(series, await grey(), 'a.png')).taken).toBeNull();
    const wrong = await takenOn('yesterday, about noon', 'jpeg');
    expect((await bringIn(series, wrong, 'b.jpg')).taken).toBeNull();
  });

  it('is read later for photographs that came in before it was asked', async () => {
    const series = await begin('Earlier');
    const { id } = await bringIn(series, await takenOn('2025:12:24 08:00:00', 'jpeg'), 'a.jpg');
    const other = await bringIn(series, await grey(), 'b.png');
    await Photograph.update({ taken: null, takenRead: false }, { where: {} });
    await readWhenTaken(server.services);
    const { photographs } = await seriesAt(series);
    expect(photographs.map(p => [p.id, p.taken])).toEqual([
      [id, '2025-12-24T08:00:00'],
      [other.id, null],
    ]);
    expect(await Photograph.count({ where: { takenRead: false } })).toBe(0);
  });
});

describe('a photograph of a series', () => {
  it('has a caption, and tells the frame of what it is shown by', async () => {
    const series = await begin('Told');
    const { id, currentTakeId } = await bringIn(series, await grey(), 'a.png');
    const changed = await http().patch(`/api/photographs/${id}`).send({ caption: ' The north bank. ' });
    expect((changed.body as PhotographView).caption).toBe('The north bank.');
    expect(
      (
        await http()
          .patch(`/api/photographs/${id}`)
          .send({ caption: 'x'.repeat(2001) })
      ).status,
    ).toBe(400);
    const treatment = { format: 'lampwash-treatment', version: 1, frame: { quarterTurns: 1 } };
    await http().put(`/api/takes/${currentTakeId}/treatment`).send({ revision: 1, treatment });
    const [shown] = (await seriesAt(series)).photographs;
    expect(shown.takes[0].frame).toMatchObject({ quarterTurns: 1, crop: { width: 1 } });
    // One that was kept before frames were told.
    await TakeState.update({ frame: null }, { where: { takeId: currentTakeId } });
    expect((await seriesAt(series)).photographs[0].takes[0].frame).toBeNull();
  });

  it('is put aside with others, all or none, and they come back to their places', async () => {
    const series = await begin('Aside');
    const ids: string[] = [];
    for (let i = 0; i < 4; i++) ids.push((await bringIn(series, await grey(), `p${i}.png`)).id);
    const elsewhere = await bringIn(await begin('Elsewhere'), await grey(), 'x.png');
    const post = (what: string, photographs: string[]) =>
      http().post(`/api/series/${series}/${what}`).send({ photographs });
    const left = async () => (await seriesAt(series)).photographs.map(p => ids.indexOf(p.id));
    expect((await post('put-aside', [ids[1], elsewhere.id])).status).toBe(404);
    expect(await left()).toEqual([0, 1, 2, 3]);
    expect((await post('put-aside', [ids[1], ids[2]])).status).toBe(204);
    expect(await left()).toEqual([0, 3]);
    await post('bring-back', [ids[1], ids[2]]);
    expect(await left()).toEqual([0, 1, 2, 3]);
    expect((await post('put-aside', [])).status).toBe(400);
  });
});

it('whatever is done in a series puts it first on the shelf', async () => {
  const series = await begin('Touched');
  const { id, currentTakeId } = await bringIn(series, await grey(), 'a.png');
  const second = await bringIn(series, await grey(), 'b.png');
  const other = await begin('Last');
  const first = async () => ((await http().get('/api/series')).body as SeriesSummary[])[0].title;
  const made = (await http().post(`/api/photographs/${id}/takes`).send({})).body as { id: string };
  const treatment = { format: 'lampwash-treatment', version: 1, steps: [{ kind: 'mono' }] };
  const deeds: Record<string, () => request.Test> = {
    'a title': () => http().patch(`/api/series/${series}`).send({ title: 'Touched' }),
    'an order': () =>
      http()
        .put(`/api/series/${series}/order`)
        .send({ photographs: [second.id, id] }),
    'a caption': () => http().patch(`/api/photographs/${id}`).send({ caption: 'Bank' }),
    'a take': () => http().post(`/api/photographs/${id}/takes`).send({}),
    'a take’s name': () => http().patch(`/api/takes/${made.id}`).send({ name: 'Plain' }),
    'a treatment': () => http().put(`/api/takes/${currentTakeId}/treatment`).send({ revision: 1, treatment }),
    'a take put aside': () => http().delete(`/api/takes/${made.id}`),
    'a take brought back': () => http().post(`/api/takes/${made.id}/restore`),
    'a photograph put aside': () => http().delete(`/api/photographs/${second.id}`),
    'a photograph brought back': () => http().post(`/api/photographs/${second.id}/restore`),
    'a shared look': () => http().post(`/api/series/${series}/looks`).send({ name: 'Brown', treatment }),
    'a change of many': () =>
      http()
        .post(`/api/series/${series}/batches`)
        .send({
          label: 'Off',
          photographs: [id],
          into: 'current',
          work: { do: 'switch', kind: 'mono', on: false },
        }),
  };
  for (const [name, deed] of Object.entries(deeds)) {
    await http().patch(`/api/series/${other}`).send({ title: 'Last' });
    expect(await first()).toBe('Last');
    const done = await deed();
    expect(done.status, `${name}: ${JSON.stringify(done.body)}`).toBeLessThan(300);
    expect(await first(), name).toBe('Touched');
  }
});
