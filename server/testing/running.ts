import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Client } from 'pg';

/** The real server on a port and a database of its own. */
export interface App {
  url: string;
  /** Its data folder. */
  home: string;
  /** Ends the server with SIGKILL, as a power cut would. */
  kill: () => Promise<void>;
  /** Starts it again on the same port and database. */
  start: () => Promise<void>;
  /** Takes the database away from the server, connections and all, or gives it back. */
  database: (isThere: boolean) => Promise<void>;
  /** Asks its database by hand: to break what is kept there. */
  query: (sql: string, values?: unknown[]) => Promise<Record<string, unknown>[]>;
  api: <T>(method: string, path: string, body?: unknown) => Promise<T>;
  /** Brings a file into a series. */
  bringIn: (seriesId: string, file: Buffer, name: string) => Promise<{ id: string; currentTakeId: string }>;
}

function untilListening(child: ChildProcess): Promise<string> {
  return new Promise((done, fail) => {
    let text = '';
    child.stdout!.on('data', (data: Buffer) => {
      text += data;
      const address = /https?:\/\/[\d.]+:\d+/.exec(text);
      if (address) done(address[0]);
    });
    child.stderr!.on('data', (data: Buffer) => (text += data));
    child.once('exit', () => fail(new Error(`the server ended: ${text}`)));
  });
}

const ended = (child: ChildProcess) =>
  child.exitCode !== null || child.signalCode !== null
    ? Promise.resolve()
    : new Promise<void>(done => child.once('exit', () => done()));

/** Makes a database on the test run's PostgreSQL: empty, or as another is. */
async function makeDatabase(name: string, like?: string): Promise<URL> {
  const admin = new Client({ connectionString: process.env.LAMPWASH_TEST_DATABASE });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}${like ? ` TEMPLATE ${like}` : ''}`);
  await admin.end();
  const url = new URL(process.env.LAMPWASH_TEST_DATABASE!);
  url.pathname = `/${name}`;
  return url;
}

/** Where an application with the demo on its shelf is kept, to be copied: the name of its database, and its data folder. */
const kept = { database: 'LAMPWASH_TEST_DEMO', home: 'LAMPWASH_TEST_DEMO_HOME' } as const;

/**
 * Fills a shelf with the demo, so that each application of this run that begins with it is a copy. Once for all parts of a run,
 * where they have a folder in common.
 */
export async function keepDemo(): Promise<(() => Promise<void>) | void> {
  const folder = process.env.LAMPWASH_TEST_FOLDER;
  const note = folder && join(folder, 'demo.json');
  if (note && existsSync(note)) {
    Object.assign(process.env, JSON.parse(await readFile(note, 'utf8')));
    return;
  }
  const home = folder ? join(folder, 'demo') : await mkdtemp(join(tmpdir(), 'lampwash-demo-'));
  const app = await startApp({ LAMPWASH_HOME: home });
  await app.close();
  const where = { [kept.database]: app.databaseName, [kept.home]: home };
  Object.assign(process.env, where);
  if (note) await writeFile(note, JSON.stringify(where));
  else return () => rm(home, { recursive: true, force: true });
}

/**
 * Starts the built server with a database of its own.
 * @param env of the server, beside what it needs
 */
export async function startApp(
  env: NodeJS.ProcessEnv = {},
): Promise<App & { databaseName: string; close: () => Promise<void> }> {
  const name = `e2e_${randomUUID().replaceAll('-', '')}`;
  const isCopy = env.LAMPWASH_DEMO !== '0' && !env.LAMPWASH_HOME && process.env[kept.database];
  const database = await makeDatabase(name, isCopy || undefined);
  const home = env.LAMPWASH_HOME ?? (await mkdtemp(join(tmpdir(), 'lampwash-e2e-')));
  if (isCopy) await cp(process.env[kept.home]!, home, { recursive: true });
  let child: ChildProcess;
  let port = '0';
  const start = async () => {
    child = spawn(process.execPath, [resolve('dist/server/main.mjs')], {
      env: {
        ...process.env,
        DATABASE_URL: database.href,
        LAMPWASH_HOME: home,
        LAMPWASH_PORT: port,
        LAMPWASH_CHECK: '1',
        ...env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    app.url = await untilListening(child);
    port = new URL(app.url).port;
  };
  const app: App & { databaseName: string; close: () => Promise<void> } = {
    databaseName: name,
    url: '',
    home,
    start,
    kill: async () => {
      child.kill('SIGKILL');
      await ended(child);
    },
    database: async isThere => {
      const client = new Client({ connectionString: process.env.LAMPWASH_TEST_DATABASE });
      await client.connect();
      await client.query(`ALTER DATABASE ${name} WITH ALLOW_CONNECTIONS ${isThere}`);
      if (!isThere) {
        await client.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [
          name,
        ]);
      }
      await client.end();
    },
    query: async (sql, values) => {
      const client = new Client({ connectionString: database.href });
      await client.connect();
      try {
        const { rows } = await client.query<Record<string, unknown>>(sql, values);
        return rows;
      } finally {
        await client.end();
      }
    },
    api: async (method, path, body) => {
      const response = await fetch(app.url + path, {
        method,
        ...(body !== undefined && {
          body: JSON.stringify(body),
          headers: { 'Content-Type': 'application/json' },
        }),
      });
      if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
      return response.status === 204 ? undefined : response.json();
    },
    bringIn: async (seriesId, file, fileName) => {
      const form = new FormData();
      form.append('file', new Blob([new Uint8Array(file)]), fileName);
      const response = await fetch(`${app.url}/api/series/${seriesId}/photographs?again=1`, {
        method: 'POST',
        body: form,
      });
      if (!response.ok) throw new Error(await response.text());
      return response.json();
    },
    close: async () => {
      child.kill('SIGTERM');
      await ended(child);
      if (!env.LAMPWASH_HOME) await rm(home, { recursive: true, force: true });
    },
  };
  await start();
  return app;
}
