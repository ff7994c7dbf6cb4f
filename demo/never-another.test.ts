import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Series } from '../server/data/models';
import { testServer, type TestServer } from '../server/testing/server';
import { seedDemo } from './seed';

let server: TestServer;
beforeAll(async () => void (server = await testServer()));
afterAll(() => server.close());

it('a shelf with something of its own on it is never filled with the demo', async () => {
  await Series.create({ title: 'Of my own' });
  await seedDemo(server.services, resolve('demo/photographs'));
  expect(await Series.count()).toBe(1);
});
