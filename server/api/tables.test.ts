import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const http = () => request(server.app);

const cube = 'LUT_1D_SIZE 2\n0 0 0\n1 0.9 0.7\n';

describe('colour tables', () => {
  it('are kept, named, grouped, removed and brought back', async () => {
    const made = await http().post('/api/tables').send({ name: ' Lamp oil ', cube });
    expect(made.status).toBe(201);
    expect(made.body).toMatchObject({ name: 'Lamp oil', group: '' });
    const { id } = made.body as { id: string };
    await http().post('/api/tables').send({ name: 'Tar', group: 'Dark', cube });
    expect((await http().get('/api/tables')).body.map((t: { name: string }) => t.name)).toEqual([
      'Lamp oil',
      'Tar',
    ]);
    expect((await http().get(`/api/tables/${id}`)).body.cube).toBe(cube);
    const changed = await http().patch(`/api/tables/${id}`).send({ name: 'Evening', group: 'Warm' });
    expect(changed.body).toEqual({ id, name: 'Evening', group: 'Warm' });
    expect((await http().delete(`/api/tables/${id}`)).status).toBe(204);
    expect((await http().get(`/api/tables/${id}`)).status).toBe(404);
    expect((await http().get('/api/tables')).body).toHaveLength(1);
    expect((await http().post(`/api/tables/${id}/restore`)).body).toMatchObject({ name: 'Evening' });
    expect((await http().get('/api/tables')).body).toHaveLength(2);
  });
  it('that are none are refused by name and line, and nothing is kept', async () => {
    const before = (await http().get('/api/tables')).body.length;
    const broken = await http().post('/api/tables').send({ name: 'Broken', cube: 'LUT_3D_SIZE 2\n1 2\n' });
    expect(broken.status).toBe(400);
    expect(broken.body.title).toContain('Broken');
    expect(broken.body.detail).toMatch(/line 2/);
    expect((await http().post('/api/tables').send({ name: '', cube })).status).toBe(400);
    expect(
      (
        await http()
          .post('/api/tables')
          .send({ name: '<b>x</b>', cube: 'a'.repeat(10) })
      ).status,
    ).toBe(400);
    expect((await http().get('/api/tables')).body).toHaveLength(before);
    expect(
      (await http().patch('/api/tables/00000000-0000-4000-8000-000000000000').send({ name: 'x' })).status,
    ).toBe(404);
  });
});
