import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { starterBox } from '../../core/colour/pigments';
import { testServer, type TestServer } from '../testing/server';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const http = () => request(server.app);

describe('the pigment box', () => {
  it('keeps pigments in order, names, removes and brings them back', async () => {
    const made = await http()
      .post('/api/pigments')
      .send({ pigments: starterBox.slice(0, 3) });
    expect(made.status).toBe(201);
    const box = (await http().get('/api/pigments')).body as {
      id: string;
      name: string;
      pigment: unknown;
      depth: number;
    }[];
    expect(box.map(({ name, pigment, depth }) => ({ name, pigment, depth }))).toEqual(starterBox.slice(0, 3));
    const [{ id }] = box;
    expect((await http().patch(`/api/pigments/${id}`).send({ name: 'Ferryman' })).body.name).toBe('Ferryman');
    expect((await http().delete(`/api/pigments/${id}`)).status).toBe(204);
    expect((await http().get('/api/pigments')).body).toHaveLength(2);
    expect((await http().delete(`/api/pigments/${id}`)).status).toBe(404);
    await http().post(`/api/pigments/${id}/restore`);
    expect((await http().get('/api/pigments')).body[0].name).toBe('Ferryman');
  });
  it('takes none where one is not a pigment', async () => {
    const before = (await http().get('/api/pigments')).body.length;
    // What an earlier version sends has no depth: it tints.
    const plain = { name: 'Plain', pigment: { kind: 'flat', colour: '#102030' } };
    const kept = await http()
      .post('/api/pigments')
      .send({ pigments: [plain] });
    expect(kept.body[0].depth).toBe(0);
    await http().delete(`/api/pigments/${kept.body[0].id}`);
    const deep = await http()
      .post('/api/pigments')
      .send({ pigments: [{ ...plain, depth: 2 }] });
    expect([deep.status, deep.body.detail]).toEqual([400, expect.stringContaining('depth')]);
    for (const pigment of [
      { kind: 'flat', colour: 'red' },
      { kind: 'ramp', stops: [] },
      null,
      { kind: 'spray' },
    ]) {
      const refused = await http()
        .post('/api/pigments')
        .send({
          pigments: [
            { name: 'Good', pigment: { kind: 'flat', colour: '#123456' } },
            { name: 'Bad', pigment },
          ],
        });
      expect(refused.status).toBe(400);
      expect(refused.body.detail).toContain('pigments[1].pigment');
    }
    expect((await http().get('/api/pigments')).body).toHaveLength(before);
  });
});
