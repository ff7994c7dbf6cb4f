import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { looksFile, type Look } from '../../core/treatment/looks';
import { starterLooks } from '../../core/treatment/starter-looks';
import { NO_GRACE, removeUnused } from '../data/unused';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const http = () => request(server.app);

const steps = [{ kind: 'mono' }, { kind: 'vignette', settings: { amount: -0.4 } }];
const treatment = { format: 'lampwash-treatment', version: 1, steps };
const CUBE = `TITLE "Warm"\nLUT_3D_SIZE 2\n${'0 0 0\n'.repeat(7)}1 1 1\n`;

const keep = (look: object) => http().post('/api/looks').send(look);
/** Names of those that are kept under these. */
const namesOf = async (...names: string[]) =>
  (await listed()).map(l => l.name).filter(name => names.includes(name));
const listed = async () => (await http().get('/api/looks')).body as (Look & { id: string })[];

describe('looks', () => {
  it('are kept in order, named, regrouped, put aside and brought back', async () => {
    const made = await keep({ name: 'Dark edges', group: 'Mine', treatment });
    expect(made.status).toBe(201);
    await keep({ name: 'Second', group: 'Mine', treatment });
    expect(await namesOf('Dark edges', 'Second', 'Corners')).toEqual(['Dark edges', 'Second']);
    const { id } = made.body as { id: string };
    const changed = await http().patch(`/api/looks/${id}`).send({ name: 'Corners', group: 'Edges' });
    expect(changed.body).toMatchObject({ name: 'Corners', group: 'Edges' });
    expect((await http().delete(`/api/looks/${id}`)).status).toBe(204);
    expect(await namesOf('Dark edges', 'Second', 'Corners')).toEqual(['Second']);
    expect((await http().delete(`/api/looks/${id}`)).status).toBe(404);
    const aside = (await http().get('/api/put-aside')).body as {
      kind: string;
      name: string;
      within: string;
    }[];
    expect(aside).toContainEqual(expect.objectContaining({ kind: 'look', name: 'Corners', within: 'Edges' }));
    await http().post(`/api/looks/${id}/restore`);
    expect(await namesOf('Dark edges', 'Second', 'Corners')).toEqual(['Corners', 'Second']);
    await http().delete(`/api/looks/${id}`);
    expect((await http().delete(`/api/put-aside/look/${id}`)).status).toBe(204);
    expect((await http().post(`/api/looks/${id}/restore`)).status).toBe(404);
  });

  it('have no frame, and every setting filled in', async () => {
    const framed = { ...treatment, frame: { quarterTurns: 1 } };
    const { body } = await keep({ name: 'Turned', group: 'Mine', treatment: framed });
    expect(body.treatment.frame.quarterTurns).toBe(0);
    expect(body.treatment.steps[1].settings).toMatchObject({ amount: -0.4, size: 0.6 });
  });

  it('of the starter set can all be kept', async () => {
    const before = (await listed()).length;
    for (const { name, group, treatment: of } of starterLooks()) {
      expect((await keep({ name, group, treatment: of })).status, name).toBe(201);
    }
    const all = await listed();
    expect(
      all.slice(before).map(({ name, group, treatment: of }) => ({ name, group, treatment: of })),
    ).toEqual(starterLooks());
    expect(looksFile(all.slice(before))).toEqual(looksFile(starterLooks()));
  });

  it('keep what they carry, as long as they are there', async () => {
    const tabled = {
      ...treatment,
      steps: [{ kind: 'colour-table', settings: { table: 'warm' } }],
      tables: { warm: CUBE },
    };
    const { body } = await keep({ name: 'Warm table', group: 'Mine', treatment: tabled });
    const { sha256 } = body.treatment.tables.warm as { sha256: string };
    await removeUnused(server.services.sequelize, NO_GRACE);
    expect((await http().get(`/api/carried/${sha256}`)).status).toBe(200);
    await http().delete(`/api/looks/${body.id}`);
    await http().delete(`/api/put-aside/look/${body.id}`);
    await removeUnused(server.services.sequelize, NO_GRACE);
    expect((await http().get(`/api/carried/${sha256}`)).status).toBe(404);
  });

  it.each([
    ['no treatment', { name: 'A', group: 'B' }, 'treatment'],
    ['no name', { name: '  ', group: 'B', treatment }, 'name'],
    ['a long group', { name: 'A', group: 'B'.repeat(61), treatment }, 'group'],
    [
      'a wrong step',
      { name: 'A', group: 'B', treatment: { ...treatment, steps: [{ kind: 'magic' }] } },
      'magic',
    ],
    [
      'something that is not kept here',
      { name: 'A', group: 'B', treatment: { ...treatment, tables: { t: { sha256: 'f'.repeat(64) } } } },
      'send it to /api/carried first',
    ],
  ])('are refused with %s, and none is kept', async (_, look, problem) => {
    const before = await listed();
    const refused = await keep(look);
    expect(refused.status).toBe(400);
    expect(JSON.stringify(refused.body)).toContain(problem);
    expect(await listed()).toEqual(before);
  });
});
