import { spawn } from 'node:child_process';
import { closeSync, openSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer, connect } from 'node:net';
import { join } from 'node:path';
import { PlainError } from '../plain-error.mjs';
import { asOwner, binariesFor, run } from './binaries.mjs';
import { clusterFolder, isThere } from './folder.mjs';
import { ensureCluster } from './initialise.mjs';
import { serverDatabase } from './role.mjs';

/** A PostgreSQL cluster of our own, on loopback, in a folder of our own: made, started, watched, stopped. */

export function freePort() {
  return new Promise((done, fail) => {
    const server = createServer();
    server.once('error', fail);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => done(port));
    });
  });
}

function accepts(port) {
  return new Promise(done => {
    const socket = connect(port, '127.0.0.1');
    socket.once('connect', () => done(socket.end() && true));
    socket.once('error', () => done(false));
  });
}

const wait = ms => new Promise(done => setTimeout(done, ms));

/** Whether a postmaster works on a folder, whatever its files say. */
const isWorkedOn = data =>
  readdirSync('/proc').some(pid => {
    if (!/^\d+$/.test(pid)) return false;
    try {
      const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
      return /postgres$/.test(words[0]) && words.includes(data);
    } catch {
      return false;
    }
  });

/** What a crash of the machine may leave: an empty note of who runs, with which PostgreSQL refuses to start. */
function cureEmptyNote(data) {
  const note = join(data, 'postmaster.pid');
  if (!isThere(note) || statSync(note).size > 0 || isWorkedOn(data)) return;
  rmSync(note);
  console.log(`Removed an empty ${note}, left by a crash.`);
}

/** The last thing that the database's log calls wrong. */
function lastWrong(log) {
  const lines = readFileSync(log, 'utf8').split('\n').slice(-200);
  return lines
    .findLast(line => /(FATAL|PANIC|ERROR): /.test(line))
    ?.replace(/^.*?(FATAL|PANIC|ERROR): +/, '');
}

/** Starts the postmaster; resolves to its child process when it answers. Throws a PlainError. */
async function startPostmaster(bin, folder, port, quick) {
  const data = join(folder, 'data');
  const options = ['-D', data, '-h', '127.0.0.1', '-p', String(port), '-c', 'unix_socket_directories='];
  if (quick) options.push('-c', 'fsync=off', '-c', 'synchronous_commit=off', '-c', 'full_page_writes=off');
  cureEmptyNote(data);
  const logFile = join(folder, 'postgres.log');
  const log = openSync(logFile, 'a');
  const [program, list] = asOwner(join(bin, 'postgres'), options);
  // In a session of its own: Ctrl-C reaches this script alone, which then stops things in order.
  const child = spawn(program, list, { cwd: '/', detached: true, stdio: ['ignore', log, log] });
  closeSync(log);
  child.unref();
  let exited = false;
  child.once('exit', () => (exited = true));
  for (let i = 0; !exited && i < 1200; i++) {
    if (
      (await accepts(port)) &&
      run(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]).ok
    ) {
      return;
    }
    await wait(50);
  }
  throw new PlainError(
    `The database did not start: ${lastWrong(logFile) ?? 'it says nothing'} (the log is ${logFile})`,
  );
}

/** Pauses between tries to start it again, in milliseconds. */
const PAUSES = [0, 1000, 2000, 5000, 10_000, 30_000];

/**
 * Starts the cluster under `home`, making it at first, and starts it again whenever it ends without being told to.
 * Takes over one that a killed start left running.
 * @param quick for tests: gives up safety against power loss, and lets databases be made
 * @returns the address of the database and a function that stops the cluster
 * Throws a PlainError.
 */
export async function startCluster(home, { quick = false } = {}) {
  const folder = clusterFolder(home);
  const password = ensureCluster(folder);
  const data = join(folder, 'data');
  const bin = binariesFor(data);
  const runs = () => run(join(bin, 'pg_ctl'), ['status', '-D', data]).ok;
  const halt = () => run(join(bin, 'pg_ctl'), ['stop', '-D', data, '-m', 'fast', '-w', '-t', '30']);
  const noted = line => Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[line]);

  let port;
  if (runs()) port = noted(3);
  else {
    port = await freePort();
    await startPostmaster(bin, folder, port, quick);
  }

  let stopped = false;
  let failures = 0;
  let timer;
  /** Looks now and then whether it lives. */
  const watch = async () => {
    let pause = 500;
    const lives = () => {
      try {
        return process.kill(noted(0), 0);
      } catch (error) {
        return error.code === 'EPERM';
      }
    };
    if (!stopped && !lives() && !runs()) {
      if (failures === 0) console.error('The database has ended; it is started again.');
      try {
        await startPostmaster(bin, folder, port, quick);
        if (stopped) return void halt();
        console.error('The database is back.');
        failures = 0;
      } catch (error) {
        if (!(error instanceof PlainError)) throw error;
        failures++;
        pause = PAUSES[Math.min(failures, PAUSES.length - 1)];
        console.error(error.message);
      }
    }
    look(pause);
  };
  const look = pause => {
    if (!stopped) timer = setTimeout(() => void watch(), pause).unref();
  };
  look(500);

  const url = serverDatabase(bin, port, password, { makesDatabases: quick });
  return {
    url,
    stop: () => {
      stopped = true;
      clearTimeout(timer);
      halt();
    },
  };
}
