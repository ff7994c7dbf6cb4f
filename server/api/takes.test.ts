import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { forgetStates } from '../data/history';
import { bareTreatment } from '../../core/treatment/treatment';
import { asking, light, treatmentOf } from '../testing/asking';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const { http, newSeries, photographIn } = asking(() => server);

describe('takes', () => {
  it('save from a revision, and refuse a stale save with the newest state', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const put = (revision: number, exposure: number) =>
      http()
        .put(`/api/takes/${id}/treatment`)
        .send({ revision, treatment: light(exposure), label: 'Light exposure' });
    expect((await put(1, 0.5)).body).toMatchObject({ revision: 2, undo: 'Light exposure', redo: null });
    const stale = await put(1, 0.9);
    expect(stale.status).toBe(409);
    expect(stale.body.newest).toMatchObject({ revision: 2, undo: 'Light exposure' });
    expect((await http().get(`/api/takes/${id}`)).body.treatment).toEqual(light(0.5));
    expect((await put(2, 0.9)).status).toBe(200);
  });

  it('of many saves from one revision exactly one is taken', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        http()
          .put(`/api/takes/${id}/treatment`)
          .send({ revision: 1, treatment: light(i / 10) }),
      ),
    );
    expect(answers.filter(a => a.status === 200)).toHaveLength(1);
    expect(answers.filter(a => a.status === 409)).toHaveLength(7);
  });

  it('refuse a treatment that is wrong, naming the place', async () => {
    const { currentTakeId: id } = await photographIn((await newSeries()).id);
    const treatment = { ...bareTreatment(), steps: [{ kind: 'light', settings: { exposure: 9 } }] };
    const { status, body } = await http().put(`/api/takes/${id}/treatment`).send({ revision: 1, treatment });
    expect(status).toBe(400);
    expect(body.detail).toContain('steps[0].settings.exposure');
    expect((await http().get(`/api/takes/${id}`)).body.revision).toBe(1);
  });

  it('one that an earlier version saved is read with the settings that it lacks', async () => {
    const { id } = await newSeries();
    const { currentTakeId } = await photographIn(id);
    await http()
      .put(`/api/takes/${currentTakeId}/treatment`)
      .send({ revision: 1, treatment: light(1) });
    await server.services.sequelize.query(
      `UPDATE take_states SET patch = NULL, treatment = $2::jsonb - 'frame' - 'masks' - 'tables' #- '{steps,0,settings,gamma}'
       WHERE take_id = $1 AND number = 1`,
      { bind: [currentTakeId, JSON.stringify(light(1))] },
    );
    forgetStates();
    const { body } = await http().get(`/api/takes/${currentTakeId}`);
    expect(body.treatment).toEqual(JSON.parse(JSON.stringify(light(1))));
  });

  it('are ordered, every one once; a new one comes last', async () => {
    const { id } = await photographIn((await newSeries()).id);
    const make = async () =>
      ((await http().post(`/api/photographs/${id}/takes`).send({})).body as { id: string }).id;
    const [b, c] = [await make(), await make()];
    const takesOf = async () =>
      ((await http().get(`/api/photographs/${id}`)).body as { takes: { id: string; letter: string }[] })
        .takes;
    const [a] = (await takesOf()).map(t => t.id);
    const order = (takes: string[]) => http().patch(`/api/photographs/${id}`).send({ takes });
    expect((await order([c, a, b])).status).toBe(200);
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CAB');
    await make();
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CABD');
    for (const wrong of [
      [c, a],
      [c, a, b, b],
      [c, a, b, id],
    ]) {
      expect((await order(wrong)).status).toBeGreaterThanOrEqual(400);
    }
    expect((await takesOf()).map(t => t.letter).join('')).toBe('CABD');
  });
  it('undo and redo follow any sequence of edits, as a simple model does', async () => {
    const series = await newSeries();
    const file = await png8(8, 8, () => [50, 60, 70]);
    await fc.assert(
      fc.asyncProperty(fc.array(fc.constantFrom('edit', 'undo', 'redo'), { maxLength: 14 }), async moves => {
        const { currentTakeId: id } = await photographIn(series.id, file);
        const past: number[] = [];
        const future: number[] = [];
        let now = 0;
        let revision = 1;
        let n = 0;
        for (const move of moves) {
          if (move === 'edit') {
            past.push(now);
            future.length = 0;
            now = ++n / 10;
            await http()
              .put(`/api/takes/${id}/treatment`)
              .send({ revision, treatment: light(now), label: `e${n}` });
          } else {
            const [from, to] = move === 'undo' ? [past, future] : [future, past];
            if (from.length) {
              to.push(now);
              now = from.pop()!;
            }
            await http().post(`/api/takes/${id}/${move}`).send({ revision });
          }
          revision++;
          const { body } = await http().get(`/api/takes/${id}`);
          expect(body.revision).toBe(revision);
          expect(body.treatment.steps[0]?.settings.exposure ?? 0).toBe(now);
          expect([body.undo !== null, body.redo !== null]).toEqual([past.length > 0, future.length > 0]);
        }
      }),
      { numRuns: 12 },
    );
  }, 120_000);

  it('are copied, named, put aside and brought back; the last one stays', async () => {
    const photograph = await photographIn((await newSeries()).id);
    const a = photograph.currentTakeId;
    expect((await http().delete(`/api/takes/${a}`)).status).toBe(409);
    await http()
      .put(`/api/takes/${a}/treatment`)
      .send({ revision: 1, treatment: light(1) });
    const b = (await http().post(`/api/photographs/${photograph.id}/takes`).send({ from: a })).body;
    expect(b).toMatchObject({ letter: 'B', treatment: light(1), undo: null });
    await http().patch(`/api/takes/${b.id}`).send({ name: 'Warmer' });
    const view = async () => (await http().get(`/api/photographs/${photograph.id}`)).body;
    expect(await view()).toMatchObject({
      currentTakeId: b.id,
      takes: [{ letter: 'A' }, { letter: 'B', name: 'Warmer' }],
    });
    await http().delete(`/api/takes/${b.id}`);
    expect(await view()).toMatchObject({ currentTakeId: a, takes: [{ letter: 'A' }] });
    expect((await http().post(`/api/photographs/${photograph.id}/takes`).send({})).body.letter).toBe('C');
    await http().post(`/api/takes/${b.id}/restore`);
    expect((await view()).takes.map((t: { letter: string }) => t.letter)).toEqual(['A', 'B', 'C']);
  });

  it('give small pictures that show their treatment', async () => {
    const photograph = await photographIn((await newSeries()).id, await png8(300, 200, () => [180, 120, 60]));
    const id = photograph.currentTakeId;
    const colour = async () => {
      const { body } = await http().get(`/api/takes/${id}/picture?edge=160`).responseType('blob');
      const { data, info } = await sharp(body as Buffer)
        .raw()
        .toBuffer({ resolveWithObject: true });
      expect(Math.max(info.width, info.height)).toBe(160);
      return Array.from(data.subarray(3000, 3003));
    };
    expect((await colour())[0]).toBeGreaterThan(170);
    await http()
      .put(`/api/takes/${id}/treatment`)
      .send({ revision: 1, treatment: treatmentOf({ kind: 'mono' }) });
    const [r, g, b] = await colour();
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(4);
    expect((await http().get(`/api/takes/${id}/picture?edge=999`)).status).toBe(400);
  });
});
