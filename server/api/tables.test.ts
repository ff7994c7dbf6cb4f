import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sendCarried } from '../testing/carried';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const http = () => request(server.app);

const cube = Buffer.from('LUT_1D_SIZE 2\n0 0 0\n1 0.9 0.7\n');

describe('colour tables', () => {
  it('are kept, named, grouped, removed and brought back', async () => {
    const { sha256 } = (await sendCarried(server.app, 'table', cube)).reference;
    const made = await http().post('/api/tables').send({ name: ' Lamp oil ', sha256 });
    expect(made.status).toBe(201);
    expect(made.body).toMatchObject({ name: 'Lamp oil', group: '', sha256 });
    const { id } = made.body as { id: string };
    await http().post('/api/tables').send({ name: 'Tar', group: 'Dark', sha256 });
    expect((await http().get('/api/tables')).body.map((t: { name: string }) => t.name)).toEqual([
      'Lamp oil',
      'Tar',
    ]);
    const changed = await http().patch(`/api/tables/${id}`).send({ name: 'Evening', group: 'Warm' });
    expect(changed.body).toEqual({ id, name: 'Evening', group: 'Warm', sha256 });
    expect((await http().delete(`/api/tables/${id}`)).status).toBe(204);
    expect((await http().get('/api/tables')).body).toHaveLength(1);
    expect((await http().post(`/api/tables/${id}/restore`)).body).toMatchObject({ name: 'Evening' });
    expect((await http().get('/api/tables')).body).toHaveLength(2);
  });

  it('that are none are refused by line, and nothing is kept', async () => {
    const before = (await http().get('/api/tables')).body.length;
    const { answer, reference } = await sendCarried(server.app, 'table', Buffer.from('LUT_3D_SIZE 2\n1 2\n'));
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toMatch(/line 2/);
    const unsent = await http().post('/api/tables').send({ name: 'Broken', sha256: reference.sha256 });
    expect(unsent.status).toBe(409);
    expect(unsent.body.title).toContain('Broken');
    const { sha256 } = (await sendCarried(server.app, 'table', cube)).reference;
    expect((await http().post('/api/tables').send({ name: '', sha256 })).status).toBe(400);
    expect(
      (
        await http()
          .post('/api/tables')
          .send({ name: 'x', sha256: 'a'.repeat(10) })
      ).status,
    ).toBe(400);
    expect((await http().get('/api/tables')).body).toHaveLength(before);
    expect(
      (await http().patch('/api/tables/00000000-0000-4000-8000-000000000000').send({ name: 'x' })).status,
    ).toBe(404);
  });
});
