import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { ensureBuilt, ensurePackages, ensurePerl, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { startCluster } from './cluster/cluster.mjs';
import { clusterFolder } from './cluster/folder.mjs';
import { holdData } from './hold.mjs';
import { giveNewPassword } from './cluster/initialise.mjs';
import { serverUser } from './drop-privileges.mjs';

/** `npm start`: everything from a fresh clone to a served application, and a clean end at Ctrl-C. */

const port = Number(process.env.LAMPWASH_PORT ?? 4870);
const host = process.env.LAMPWASH_HOST ?? '127.0.0.1';
const home = resolve(root, process.env.LAMPWASH_HOME ?? 'data');

/** Says in one line why the port cannot be had, before anything is started. */
async function needPort() {
  const busy = await new Promise(done => {
    const probe = createServer();
    probe.once('error', error => done(error.code === 'EADDRINUSE'));
    probe.listen(port, host, () => probe.close(() => done(false)));
  });
  if (!busy) return;
  const found = await whoAnswers();
  throw new PlainError(
    found
      ? `Lamp Wash is already running at ${found}. Use it, stop it, or set LAMPWASH_PORT to another port.`
      : `Port ${port} is in use by another program. Stop that, or set LAMPWASH_PORT to another port.`,
  );
}

/** The address at which a Lamp Wash answers on the port; null where something else has it. */
async function whoAnswers() {
  const name = host.includes(':') ? `[${host}]` : host === '0.0.0.0' ? '127.0.0.1' : host;
  for (const [scheme, { get }] of [
    ['http', http],
    ['https', https],
  ]) {
    const url = `${scheme}://${name}:${port}`;
    const text = await new Promise(done => {
      // Its certificate may be its own: only its name is asked for.
      const asked = get(`${url}/api/health`, { rejectUnauthorized: false, timeout: 2000 }, response => {
        let all = '';
        response.on('data', data => (all += data));
        response.on('end', () => done(all));
        response.on('error', () => done(''));
      });
      asked.on('error', () => done(''));
      asked.on('timeout', () => asked.destroy());
    });
    if (text.includes('"name":"lampwash"')) return url;
  }
  return null;
}

/** npm does not pass on that it was killed: whoever it started sees that it is gone, and ends as at Ctrl-C. */
function endWithNpm(stop) {
  if (!process.env.npm_lifecycle_event) return;
  const parent = process.ppid;
  setInterval(() => {
    if (process.ppid !== parent) stop();
  }, 300).unref();
}

async function main() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new PlainError(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
  }
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new PlainError('LAMPWASH_PORT is not a port.');
  const isManaged = !process.env.DATABASE_URL;
  if (process.argv.includes('--new-password')) {
    ensurePostgres();
    const letGo = holdData(home);
    try {
      giveNewPassword(clusterFolder(home));
    } finally {
      letGo();
    }
    console.log('The database has a new password. Start Lamp Wash as ever.');
    return;
  }
  await needPort();
  const letGo = isManaged ? holdData(home) : () => undefined;
  process.once('exit', letGo);

  let stopCluster = () => undefined;
  let server;
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    if (server && server.exitCode === null) server.kill('SIGTERM');
    else stopCluster();
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  process.on('SIGHUP', stop);
  endWithNpm(stop);

  ensurePackages();
  let databaseUrl = process.env.DATABASE_URL;
  if (isManaged) ensurePostgres();
  ensurePerl();
  ensureBuilt();
  if (stopping) return;
  mkdirSync(home, { recursive: true });
  // What is wrong with it is said before a database is started.
  const { env: own, ...user } = serverUser(home);
  if (isManaged) {
    const cluster = await startCluster(home);
    stopCluster = cluster.stop;
    databaseUrl = cluster.url;
  }
  if (stopping) return stopCluster();

  server = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server/main.mjs')], {
    // Not in the terminal's group, so that Ctrl-C ends the server before its database, not with it.
    detached: true,
    // When this script is killed, the channel tells the server, which then ends too.
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    ...user,
    env: {
      ...process.env,
      ...own,
      DATABASE_URL: databaseUrl,
      LAMPWASH_HOME: home,
      LAMPWASH_PORT: String(port),
    },
  });
  const code = await new Promise(done => server.once('exit', (status, signal) => done(signal ? 1 : status)));
  stopCluster();
  process.exitCode = stopping ? 0 : code;
}

main().catch(error => {
  console.error(error instanceof PlainError ? error.message : error);
  process.exitCode = 1;
});
