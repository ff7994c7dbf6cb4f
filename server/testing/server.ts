import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import type { Express } from 'express';
import { createApp } from '../api/app';
import { readConfig } from '../config';
import { migrator } from '../data/migrate';
import { openQueue, type Queue } from '../jobs/queue';
import { openServices, type Services } from '../services';

export interface TestServer {
  app: Express;
  services: Services;
  queue: Queue;
  folder: string;
  close: () => Promise<void>;
}

/** An application with a database and a cache folder of its own, on the test run's PostgreSQL. */
export async function testServer(): Promise<TestServer> {
  const base = process.env.LAMPWASH_TEST_DATABASE;
  if (!base) throw new Error('LAMPWASH_TEST_DATABASE is not set: run the tests with npm test');
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  const admin = new Client({ connectionString: base });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  await admin.end();
  const url = new URL(base);
  url.pathname = `/${name}`;
  const folder = await mkdtemp(join(tmpdir(), 'lampwash-test-'));
  const config = readConfig({
    DATABASE_URL: url.href,
    LAMPWASH_HOME: folder,
    LAMPWASH_LOG: 'silent',
    LAMPWASH_DEMO: '0',
    LAMPWASH_CHECK: '1',
  });
  const services = await openServices({
    ...config,
    bandWorker: resolve('dist/server/band-worker.mjs'),
    rowWorker: resolve('dist/server/row-worker.mjs'),
    sheetWorker: resolve('dist/server/sheet-worker.mjs'),
  });
  await migrator(services.sequelize).up();
  const queue = await openQueue(config.databaseUrl, services.log);
  return {
    app: createApp(services, queue, join(folder, 'no-interface')),
    services,
    queue,
    folder,
    close: async () => {
      await queue.close();
      await services.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}
