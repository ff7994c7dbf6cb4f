import { spawnSync } from 'node:child_process';
import { chmodSync, chownSync, mkdirSync, mkdtempSync, appendFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { binariesFor, ensurePostgres, owner, run } from '../cluster/binaries.mjs';
import { ensureBuilt, ensureDebian, ensurePackages, root } from '../ensure.mjs';
import { ended, makeHosts, said } from './network.mjs';

/**
 * `npm run hosts`: a studio of several hosts, each a network namespace of its own (it needs root): PostgreSQL, a server,
 * two workers on a core each, and somebody who works from another host. Sends a batch out with one worker, with two, and
 * with two of which one is killed in the middle; `--many N` brings N small photographs in, for docs/scale.md.
 */

const PASSPHRASE = 'a lamp at the end of the jetty';
const PORT = 4871;
const BATCH = 100;

ensurePackages();
ensurePostgres();
ensureDebian(['iproute2', 'util-linux'], () => spawnSync('sh', ['-c', 'command -v ip taskset']).status === 0);
ensureBuilt();

const home = mkdtempSync(join(tmpdir(), 'lampwash-hosts-'));
chmodSync(home, 0o755);
const hosts = makeHosts(['database', 'server', 'worker-1', 'worker-2', 'guest']);
const { addresses } = hosts;
const running = new Set();
const keep = child => (running.add(child), child);

/** A cluster that the other hosts reach, with a password and nothing else. */
async function startDatabase() {
  const data = join(home, 'data');
  mkdirSync(data);
  const { uid, gid } = owner();
  chownSync(data, uid, gid);
  const bin = binariesFor(data);
  const file = join(home, 'password');
  writeFileSync(file, 'studio');
  chownSync(file, uid, gid);
  const made = run(join(bin, 'initdb'), [
    '-D',
    data,
    '-U',
    'lampwash',
    '-A',
    'scram-sha-256',
    `--pwfile=${file}`,
  ]);
  if (!made.ok) throw new Error(made.text);
  appendFileSync(join(data, 'pg_hba.conf'), 'host all all 10.77.0.0/24 scram-sha-256\n');
  const options = [
    '-D',
    data,
    '-h',
    addresses.database,
    '-c',
    'unix_socket_directories=',
    '-c',
    'max_connections=60',
  ];
  keep(
    hosts.start('database', 'runuser', ['-u', 'postgres', '--', join(bin, 'postgres'), ...options], {
      stdio: ['ignore', 'ignore', 'ignore'],
      cwd: '/',
    }),
  );
  const at = name => `postgres://lampwash:studio@${addresses.database}:5432/${name}`;
  const create = `import pg from 'pg';
    for (let i = 0; ; i++) try {
      const client = new pg.Client('${at('postgres')}');
      await client.connect();
      await client.query('CREATE DATABASE lampwash');
      await client.end();
      break;
    } catch (error) { if (i > 100) throw error; await new Promise(done => setTimeout(done, 100)); }`;
  const maker = hosts.start('guest', process.execPath, ['--input-type=module', '-e', create], { cwd: root });
  const code = await new Promise(done => maker.once('exit', done));
  if (code !== 0) throw new Error('the database was not made');
  return at('lampwash');
}

/** What a question to the database answers, asked from the server's host. */
async function query(url, sql) {
  const text = `import pg from 'pg'; const c = new pg.Client('${url}'); await c.connect();
    console.log(JSON.stringify((await c.query(process.argv[1])).rows)); await c.end();`;
  const child = hosts.start('server', process.execPath, ['--input-type=module', '-e', text, sql], {
    cwd: root,
  });
  let out = '';
  child.stdout.on('data', data => (out += data));
  await new Promise(done => child.once('exit', done));
  return JSON.parse(out);
}

const built = name => join(root, 'dist/server', `${name}.mjs`);
const environment = (url, name) => ({
  DATABASE_URL: url,
  LAMPWASH_HOME: join(home, name),
  LAMPWASH_DEMO: '0',
});
async function startWorker(url, i, core) {
  const worker = keep(
    hosts.start(`worker-${i}`, process.execPath, [built('worker')], {
      core,
      env: environment(url, `worker-${i}`),
    }),
  );
  await said(worker, 'Working');
  return worker;
}

/** Somebody on the guest's host; `onLine` hears each line of numbers. */
async function guest(work, count, onLine = () => undefined) {
  const args = [
    join(root, 'scripts/hosts/guest.mjs'),
    addresses.server,
    String(PORT),
    PASSPHRASE,
    work,
    String(count),
  ];
  const child = keep(hosts.start('guest', process.execPath, args, { cwd: root }));
  const lines = [];
  let rest = '';
  child.stdout.on('data', data => {
    const parts = (rest + data).split('\n');
    rest = parts.pop();
    for (const part of parts) {
      const line = JSON.parse(part);
      lines.push(line);
      onLine(line);
    }
  });
  const code = await new Promise(done => child.once('exit', done));
  if (code !== 0) throw new Error('the guest could not work');
  return lines;
}

async function main() {
  const url = await startDatabase();
  const server = keep(
    hosts.start('server', process.execPath, [built('main')], {
      env: {
        ...environment(url, 'server'),
        LAMPWASH_HOST: addresses.server,
        LAMPWASH_PORT: String(PORT),
        LAMPWASH_PASSPHRASE: PASSPHRASE,
        LAMPWASH_WORK: '0',
      },
    }),
  );
  console.log((await said(server, 'SHA-256')).trim());

  const i = process.argv.indexOf('--many');
  if (i > 0) {
    const empty = (await query(url, 'SELECT pg_database_size(current_database())::float8 AS size'))[0].size;
    const [, made] = await guest('many', process.argv[i + 1]);
    await query(url, 'VACUUM ANALYZE');
    const [{ size }] = await query(url, 'SELECT pg_database_size(current_database())::float8 AS size');
    const [{ connections }] = await query(
      url,
      'SELECT count(*)::int AS connections FROM pg_stat_activity WHERE datname = current_database()',
    );
    const each = (size - empty - made.bytes) / made.photographs;
    console.log({ ...made, bytesBesideFiles: Math.round(each), connections: connections - 1 });
    return;
  }

  const checks = [];
  const check = (name, holds, value) => {
    checks.push(holds);
    console.log(`${holds ? '✓' : '×'} ${name}: ${value}`);
  };
  const [door] = await guest('door', 0);
  check(
    'who comes in',
    JSON.stringify(door) ===
      JSON.stringify({ plain: 'nothing', without: 401, wrong: 401, right: 303, within: 200, foreign: 421 }),
    JSON.stringify(door),
  );
  const resultOf = lines => lines.at(-1);

  const first = await startWorker(url, 1, 0);
  const alone = resultOf(await guest('batch', BATCH));
  check('one worker', alone.rows === BATCH && alone.files === BATCH, `${BATCH} files in ${alone.took} ms`);

  const second = await startWorker(url, 2, 1);
  const both = resultOf(await guest('batch', BATCH));
  check('two workers', both.rows === BATCH && both.files === BATCH, `${BATCH} files in ${both.took} ms`);
  const times = alone.took / both.took;
  check('two are faster than one', times > 1.5, `${times.toFixed(2)} times (each on a core of its own)`);

  let killed = false;
  const lines = await guest('batch', BATCH, ({ done }) => {
    if (killed || !(done >= BATCH / 3)) return;
    killed = true;
    second.kill('SIGKILL');
  });
  const broken = resultOf(lines);
  check(
    'one of two killed in the middle',
    killed && broken.rows === BATCH && broken.files === BATCH,
    `${BATCH} files, each once, in ${broken.took} ms (what the killed one had begun waits a minute)`,
  );
  const attempts = await query(
    url,
    'SELECT attempt, count(*)::int AS n FROM send_outs GROUP BY attempt ORDER BY attempt',
  );
  check(
    'begun twice is only what was being made when it was killed',
    attempts.every(({ attempt, n }) => attempt === 1 || (attempt === 2 && n <= 2)),
    JSON.stringify(attempts),
  );
  await ended(first);
  const passed = checks.filter(Boolean).length;
  console.log(`${passed} passed, ${checks.length - passed} failed`);
  process.exitCode = passed === checks.length ? 0 : 1;
}

const end = async () => {
  for (const child of [...running].reverse()) await ended(child, 'SIGTERM');
  hosts.end();
  rmSync(home, { recursive: true, force: true });
};
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, () => void end().then(() => process.exit(130)));
await main()
  .catch(error => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(end);
