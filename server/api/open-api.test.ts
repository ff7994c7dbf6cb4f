import { Ajv2020 } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openSignIns } from '../data/sign-ins';
import { asking, light } from '../testing/asking';
import { testServer, type TestServer } from '../testing/server';
import { createApp } from './app';

/** The description of the API against what is answered, by a validator that knows nothing of how either is made. */

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());
const { http, newSeries, photographIn, sent } = asking(() => server);

interface Operation {
  summary: string;
  parameters: { name: string; in: string; required: boolean }[];
  responses: Record<string, { content?: Record<string, { schema?: object }> }>;
}
type Description = { paths: Record<string, Record<string, Operation>> } & Record<string, unknown>;

const ajv = new Ajv2020({ strict: false, allErrors: true });
formats.default(ajv);
const description = async (): Promise<Description> =>
  (await http().get('/api/openapi.json')).body as Description;

/** What of an answer a schema does not allow. */
function wrongIn(schema: object, answer: unknown): string[] {
  ajv.validate(schema, answer);
  return (ajv.errors ?? []).map(e => `${e.instancePath} ${e.message}`);
}

describe('the description of the API', () => {
  it('fits every answer in JSON that can be asked for by an id', async () => {
    const series = await newSeries('Described');
    const one = await photographIn(series.id);
    await http()
      .put(`/api/takes/${one.currentTakeId}/treatment`)
      .send({ revision: 1, label: 'Light', treatment: light(0.3) });
    const { row } = await sent(series.id, one.currentTakeId, { format: 'jpeg' });
    await http()
      .post('/api/looks')
      .send({ name: 'Evening', group: 'Own', treatment: light(-0.4) });
    const ids: Record<string, string> = {
      '/api/series/{id}': series.id,
      '/api/photographs/{id}': one.id,
      '/api/takes/{id}': one.currentTakeId,
      '/api/send-outs/{id}': row.id,
    };
    const { paths } = await description();
    let checked = 0;
    for (const [path, { get }] of Object.entries(paths)) {
      const schema = get?.responses['200']?.content?.['application/json']?.schema;
      if (!schema) continue;
      const begin = Object.keys(ids).find(known => path.startsWith(known));
      const filled = begin ? path.replace('{id}', ids[begin]).replace('{state}', '0') : path;
      if (filled.includes('{')) continue;
      const query = get.parameters.filter(p => p.in === 'query' && p.required);
      if (query.some(p => p.name !== 'series')) continue;
      const { status, body } = await http().get(query.length ? `${filled}?series=${series.id}` : filled);
      expect(status, filled).toBe(200);
      expect(wrongIn(schema, body), filled).toEqual([]);
      checked++;
    }
    expect(checked).toBeGreaterThanOrEqual(15);
  });

  it('fits what is told of problems', async () => {
    const { paths } = await description();
    const { content } = paths['/api/series/{id}'].get.responses.default;
    const schema = content!['application/problem+json'].schema!;
    for (const path of ['/api/series/nonsense', '/api/series/00000000-0000-4000-8000-000000000000']) {
      const { body, headers } = await http().get(path);
      expect(headers['content-type']).toMatch(/^application\/problem\+json/);
      expect(wrongIn(schema, body)).toEqual([]);
    }
    expect(wrongIn(schema, { anything: 1 }).length).toBeGreaterThan(0);
  });

  it('says what each address is for, each once, and what of it may stand in the address', async () => {
    const { paths } = await description();
    const operations = Object.entries(paths).flatMap(([path, of]) =>
      Object.entries(of).map(([method, operation]) => ({ path, method, ...operation })),
    );
    expect(operations.length).toBeGreaterThan(60);
    for (const { path, method, summary, parameters } of operations) {
      expect(summary, `${method} ${path}`).toMatch(/^\p{Lu}.*\.$/su);
      const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      expect(
        parameters
          .filter(p => p.in === 'path')
          .map(p => p.name)
          .sort(),
      ).toEqual(named.sort());
    }
  });

  it('tells of tokens where they are needed', async () => {
    expect((await description()).security).toBeUndefined();
    const signIns = await openSignIns(server.services.sequelize, 'low water at the jetty');
    const guarded = createApp(server.services, server.queue, 'no-interface', signIns);
    const { token } = await signIns.giveToken('Reader');
    const { body } = await request(guarded).get('/api/openapi.json').set('Authorization', `Bearer ${token}`);
    expect(body.security).toEqual([{ token: [] }]);
    expect(body.components.securitySchemes.token).toMatchObject({ type: 'http', scheme: 'bearer' });
  });
});
