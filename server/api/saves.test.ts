import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import sharp from 'sharp';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { History, Take, TakeState } from '../../contract/takes';
import { readCube } from '../../core/formats/cube';
import { addArea, addStroke } from '../../core/treatment/areas';
import { patchBetween, patched, type Operation } from '../../core/treatment/patch';
import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import { NO_GRACE, removeUnused } from '../data/unused';
import { forgetStates } from '../data/history';
import { sendCarried } from '../testing/carried';
import { png8 } from '../testing/pictures';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
let seriesId: string;
beforeAll(async () => {
  server = await testServer();
  seriesId = (await http().post('/api/series').send({ title: 'Saves' })).body.id;
});
afterAll(() => server.close());
const http = () => request(server.app);

async function newTake(): Promise<string> {
  const file = await png8(40, 30, (x, y) => [x * 6, y * 8, 90]);
  const { body } = await http()
    .post(`/api/series/${seriesId}/photographs?again=1`)
    .attach('file', file, 'picture.png');
  return body.currentTakeId;
}

const takeOf = async (id: string) => (await http().get(`/api/takes/${id}`)).body as Take;
const light = (exposure: number) =>
  parseTreatment({ ...bareTreatment(), steps: [{ id: 's1', kind: 'light', settings: { exposure } }] });
const patchTo = (id: string, revision: number, patch: Operation[], more: object = {}) =>
  http()
    .patch(`/api/takes/${id}/treatment`)
    .send({ revision, patch, label: 'Change', ...more });

const stroke = (x: number, points = 60) => ({
  points: Array.from({ length: points }, (_, i): [number, number, number] => [
    Math.round((x + i / 5000) * 1e5) / 1e5,
    Math.round((0.2 + i / 700) * 1e5) / 1e5,
    1,
  ]),
  radius: 0.02,
  hardness: 0.5,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

/** Bytes that a take's history takes in the database, as rows with all that they hold. */
async function historyBytes(id: string): Promise<number> {
  const [row] = await server.services.sequelize.query<{ bytes: string }>(
    `SELECT sum(pg_column_size(s.*) + coalesce(octet_length(treatment::text), 0) + coalesce(octet_length(patch::text), 0)) AS bytes
       FROM take_states s WHERE take_id = $1`,
    { bind: [id], type: QueryTypes.SELECT },
  );
  return Number(row.bytes);
}

describe('a save', () => {
  it('sends a patch against a revision, and a stale one is refused with where the take stands', async () => {
    const id = await newTake();
    const first = await patchTo(id, 1, patchBetween(bareTreatment(), light(0.5)));
    expect(first.status).toBe(200);
    expect(first.body).toMatchObject({ revision: 2, state: 1, undo: 'Change', redo: null });
    expect((await takeOf(id)).treatment).toEqual(light(0.5));
    const stale = await patchTo(id, 1, patchBetween(bareTreatment(), light(0.9)));
    expect(stale.status).toBe(409);
    expect(stale.body.newest).toMatchObject({ revision: 2, state: 1 });
    expect((await takeOf(id)).treatment).toEqual(light(0.5));
  });

  it('that makes no treatment, or does not fit, is refused with its place and changes nothing', async () => {
    const id = await newTake();
    const place = '/steps/0';
    for (const [patch, detail] of [
      [[{ op: 'add', path: '/steps/-', value: { kind: 'light', settings: { exposure: 9 } } }], 'steps[0]'],
      [[{ op: 'replace', path: `${place}/settings/exposure`, value: 1 }], ''],
      [[{ op: 'add', path: '/unknown', value: 1 }], 'unknown'],
      [[{ op: 'replace', path: '', value: null }], ''],
      [[{ op: 'test', path: '/version', value: 2 }], ''],
      [[{ op: 'add', path: '/__proto__/x', value: 2 }], ''],
      [[{ op: 'fly', path: '/steps' }], 'op'],
    ] as [Operation[], string][]) {
      const { status, body } = await patchTo(id, 1, patch);
      expect([status, JSON.stringify(patch)]).toEqual([400, JSON.stringify(patch)]);
      expect(body.detail).toContain(detail);
    }
    expect((await takeOf(id)).revision).toBe(1);
  });

  it('that would multiply itself is refused before anything of it is made', async () => {
    const id = await newTake();
    const patch = [
      { op: 'add', path: '/tables/a', value: ['a'.repeat(1000)] },
      ...Array.from({ length: 40 }, () => ({ op: 'copy', from: '/tables/a', path: '/tables/a/-' })),
    ] as Operation[];
    for (const sent of [patch, [{ op: 'move', from: '/steps', path: '/masks' }] as Operation[]]) {
      const { status, body } = await patchTo(id, 1, sent);
      expect([status, body.detail]).toEqual([400, expect.stringContaining('add, remove and replace')]);
    }
    expect((await takeOf(id)).revision).toBe(1);
  }, 20_000);

  it('whose answer was lost is not made twice', async () => {
    const id = await newTake();
    const command = randomUUID();
    const patch = patchBetween(bareTreatment(), light(0.5));
    const [once, again] = [
      await patchTo(id, 1, patch, { command }),
      await patchTo(id, 1, patch, { command }),
    ];
    expect(again.status).toBe(200);
    expect(again.body).toEqual(once.body);
    expect(once.body).toMatchObject({ revision: 2, command });
    const back = randomUUID();
    const undo = () => http().post(`/api/takes/${id}/undo`).send({ revision: 2, command: back });
    await undo();
    expect((await undo()).body).toMatchObject({ revision: 3, state: 0, redo: 'Change' });
    // Another one's change has come between: then it is stale.
    await patchTo(id, 3, patch);
    expect((await undo()).status).toBe(409);
  });

  it('goes back and forth over many states, whole ones and patches, and to any of them', async () => {
    const id = await newTake();
    let revision = 1;
    let treatment: Treatment = bareTreatment();
    const states = [treatment];
    for (let i = 1; i <= 30; i++) {
      const next = light(i / 10);
      await patchTo(id, revision++, patchBetween(treatment, next), { label: `e${i}` });
      treatment = next;
      states.push(next);
    }
    const wholes = await server.services.sequelize.query<{ number: number }>(
      'SELECT number FROM take_states WHERE take_id = $1 AND treatment IS NOT NULL',
      { bind: [id], type: QueryTypes.SELECT },
    );
    expect(wholes.length).toBeGreaterThan(1);
    expect(wholes.length).toBeLessThan(12);
    forgetStates();
    for (const state of [0, 1, 7, 29, 30]) {
      expect((await http().get(`/api/takes/${id}/states/${state}`)).body).toEqual(states[state]);
    }
    expect((await http().get(`/api/takes/${id}/states/31`)).status).toBe(404);
    const jumped = await http().post(`/api/takes/${id}/jump`).send({ revision: revision++, state: 12 });
    expect(jumped.body).toMatchObject({ state: 12, undo: 'e12', redo: 'e13' });
    const redone = await http().post(`/api/takes/${id}/redo`).send({ revision: revision++ });
    expect(redone.body).toMatchObject({ state: 13, redo: 'e14' });
    expect((await http().post(`/api/takes/${id}/jump`).send({ revision, state: 99 })).status).toBe(404);
    // A branch: what was ahead stays, and can be gone to.
    const branched = await patchTo(id, revision++, patchBetween(states[13], light(-1)));
    expect(branched.body).toMatchObject({ state: 31, redo: null });
    const aside = await http().post(`/api/takes/${id}/jump`).send({ revision, state: 30 });
    expect(aside.body).toMatchObject({ state: 30, undo: 'e30', redo: null });
  });

  it('tells the history about a state, from which all of it is made', async () => {
    const id = await newTake();
    let revision = 1;
    let treatment: Treatment = bareTreatment();
    for (let i = 1; i <= 9; i++) {
      const next = light(i / 10);
      await patchTo(id, revision++, patchBetween(treatment, next), { label: `e${i}` });
      treatment = next;
    }
    for (let i = 0; i < 3; i++) await http().post(`/api/takes/${id}/undo`).send({ revision: revision++ });
    const { body } = await http().get(`/api/takes/${id}/history?state=6&back=4`);
    const { base, more, past, future } = body as History;
    expect([base.state, base.label, more]).toEqual([2, 'e2', true]);
    expect(past.map(p => p.label)).toEqual(['e3', 'e4', 'e5', 'e6']);
    expect(future.map(p => p.label)).toEqual(['e7', 'e8', 'e9']);
    let now: Treatment = base.treatment;
    const seen = [...past, ...future].map(({ patch }) => (now = patched(now, patch)).steps[0].settings);
    expect(seen).toEqual([3, 4, 5, 6, 7, 8, 9].map(i => light(i / 10).steps[0].settings));
    const all = (await http().get(`/api/takes/${id}/history?state=6`)).body as History;
    expect([all.base.state, all.more, all.past.length]).toEqual([0, false, 6]);
  });
});

describe('the size of a save', () => {
  it('is that of the stroke, in the request and in the database, however many there are', async () => {
    const id = await newTake();
    let revision = 1;
    const began = addArea(bareTreatment());
    let treatment = began.treatment;
    await patchTo(id, revision++, patchBetween(bareTreatment(), treatment));
    let most = 0;
    for (let i = 0; i < 300; i++) {
      const next = addStroke(treatment, began.area, stroke(i / 400));
      const patch = patchBetween(treatment, next);
      most = Math.max(most, JSON.stringify({ revision, patch, label: 'Paint the area' }).length);
      const { status } = await patchTo(id, revision++, patch);
      expect(status).toBe(200);
      treatment = next;
    }
    expect(most).toBeLessThan(6000);
    const bytes = await historyBytes(id);
    expect(bytes).toBeLessThan(2 * 1024 * 1024);
    expect(bytes / 300).toBeLessThan(6000);
    forgetStates();
    expect((await takeOf(id)).treatment).toEqual(treatment);
  }, 60_000);

  it('does not grow by what is carried: a 65-point table and two pictures of 20 megapixels', async () => {
    const id = await newTake();
    const lines = ['LUT_3D_SIZE 65'];
    for (let i = 0; i < 65 ** 3; i++) {
      const [r, g, b] = [i % 65, Math.floor(i / 65) % 65, Math.floor(i / 4225)];
      lines.push(`${(r / 64).toFixed(6)} ${(g / 64).toFixed(6)} ${(b / 64).toFixed(6)}`);
    }
    const text = Buffer.from(lines.join('\n'));
    expect(text.length).toBeGreaterThan(7e6);
    const table = await sendCarried(server.app, 'table', text);
    expect(table.answer.status).toBe(200);
    const pictures = [];
    for (let i = 0; i < 2; i++) {
      const grey = await sharp({
        create: { width: 5464, height: 3660, channels: 3, background: { r: i * 20, g: i * 20, b: i * 20 } },
      })
        .toColourspace('b-w')
        .png({ compressionLevel: 1 })
        .toBuffer();
      const sent = await sendCarried(server.app, 'picture', grey);
      expect(sent.answer.status).toBe(200);
      pictures.push(sent.reference);
    }
    const full = parseTreatment({
      ...bareTreatment(),
      steps: [{ kind: 'colour-table', settings: { table: 'Big' }, mask: 'm0' }],
      masks: pictures.map((png, i) => ({
        id: `m${i}`,
        name: `Area ${i}`,
        parts: [{ kind: 'picture', png }],
      })),
      tables: { Big: table.reference },
    });
    const patch = patchBetween(bareTreatment(), full);
    expect(JSON.stringify(patch).length).toBeLessThan(6000);
    expect((await patchTo(id, 1, patch)).status).toBe(200);
    forgetStates();
    expect((await takeOf(id)).treatment).toEqual(full);
    const bytes = await http().get(`/api/carried/${table.reference.sha256}`).responseType('blob');
    expect(readCube((bytes.body as Buffer).toString()).size).toBe(65);
    // And it is computed with: the small picture of the take.
    expect((await http().get(`/api/takes/${id}/picture?edge=160`)).status).toBe(200);
    expect(await historyBytes(id)).toBeLessThan(20_000);
  }, 120_000);

  it('has an end that is said, and what is beyond it changes nothing', async () => {
    const id = await newTake();
    const large = addArea(bareTreatment());
    let { treatment } = large;
    for (let i = 0; i < 32; i++) {
      const points = Array.from({ length: 20_000 }, (_, k): [number, number, number] => [
        0.123456 + k * 1e-6,
        0.234567,
        0.987654 - i * 1e-6,
      ]);
      treatment = addStroke(treatment, large.area, { ...stroke(0), points });
    }
    const refused = await patchTo(id, 1, patchBetween(bareTreatment(), treatment));
    expect(refused.status).toBe(413);
    expect(refused.body.title).toMatch(/16 MB/);
    expect((await takeOf(id)).revision).toBe(1);
    expect((await patchTo(id, 1, patchBetween(bareTreatment(), light(1)))).status).toBe(200);
  }, 60_000);
});

describe('what treatments carry', () => {
  const cube = Buffer.from('LUT_1D_SIZE 2\n0 0 0\n1 0.5 0.25\n');

  it('must have arrived before a save refers to it, under its own hash and kind', async () => {
    const id = await newTake();
    const sent = await sendCarried(server.app, 'table', cube);
    const withTable = (sha256: string) =>
      patchBetween(bareTreatment(), { ...bareTreatment(), tables: { t: { sha256 } } });
    expect((await patchTo(id, 1, withTable('a'.repeat(64)))).body.detail).toMatch(/^tables\.t: no table/);
    const asPicture = patchBetween(bareTreatment(), {
      ...bareTreatment(),
      masks: [
        {
          id: 'm',
          name: '',
          invert: false,
          feather: 0,
          grow: 0,
          refine: 0,
          fine: 0,
          fringe: 0,
          parts: [{ kind: 'picture', op: 'add', png: sent.reference }],
        },
      ],
    });
    expect((await patchTo(id, 1, asPicture)).body.detail).toContain('masks[0].parts[0].png: no picture');
    expect((await patchTo(id, 1, withTable(sent.reference.sha256))).status).toBe(200);
    const wrong = await http()
      .put(`/api/carried/table/${'b'.repeat(64)}`)
      .set('Content-Type', 'application/octet-stream')
      .send(cube);
    expect(wrong.status).toBe(400);
    expect((await http().get(`/api/carried/${'b'.repeat(64)}`)).status).toBe(404);
    const noPicture = await sendCarried(
      server.app,
      'picture',
      Buffer.from('no picture at all, but some text'),
    );
    expect(noPicture.answer.status).toBe(422);
  });

  it('stands in full in a whole treatment that another program puts, and as a reference in what it gets', async () => {
    const id = await newTake();
    const treatment = {
      ...bareTreatment(),
      steps: [{ kind: 'colour-table', settings: { table: 't' } }],
      tables: { t: cube.toString() },
    };
    const { status, body } = await http().put(`/api/takes/${id}/treatment`).send({ revision: 1, treatment });
    expect(status).toBe(200);
    const { sha256 } = (body as Take).treatment.tables.t;
    expect((await http().get(`/api/carried/${sha256}`).responseType('blob')).body).toEqual(cube);
  });

  it('goes once nothing refers to it: no state of any take, no kept table', async () => {
    const { sequelize } = server.services;
    const count = async (sha256: string) =>
      (
        await sequelize.query('SELECT 1 FROM blobs WHERE sha256 = $1', {
          bind: [sha256],
          type: QueryTypes.SELECT,
        })
      ).length;
    const used = await sendCarried(server.app, 'table', Buffer.from('LUT_1D_SIZE 2\n0 0 0\n1 1 0.9\n'));
    const unused = await sendCarried(server.app, 'table', Buffer.from('LUT_1D_SIZE 2\n0 0 0\n1 1 0.8\n'));
    const id = await newTake();
    const withTable = { ...bareTreatment(), tables: { t: used.reference } };
    await patchTo(id, 1, patchBetween(bareTreatment(), withTable));
    // Undone: redo would bring it back.
    const { body } = await http().post(`/api/takes/${id}/undo`).send({ revision: 2 });
    expect((body as TakeState).state).toBe(0);
    await removeUnused(sequelize);
    expect(await count(unused.reference.sha256)).toBe(1);
    await removeUnused(sequelize, NO_GRACE);
    expect(await count(unused.reference.sha256)).toBe(0);
    expect(await count(used.reference.sha256)).toBe(1);
    await sequelize.query('DELETE FROM takes WHERE id = $1', { bind: [id] });
    await removeUnused(sequelize, NO_GRACE);
    expect(await count(used.reference.sha256)).toBe(0);
  });
});
