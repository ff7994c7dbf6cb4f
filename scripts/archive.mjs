import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, openSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuilt, ensurePackages, ensurePerl, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { startCluster } from './cluster/cluster.mjs';
import { clusterFolder } from './cluster/folder.mjs';
import { tryToHold } from './hold.mjs';
import { serverUser } from './drop-privileges.mjs';

/**
 * `npm run backup` and `npm run restore`: on the database of `LAMPWASH_HOME`, which is started for it where Lamp Wash does not run, or on that
 * of `DATABASE_URL`.
 */

const [name, ...args] = process.argv.slice(2);
const home = resolve(root, process.env.LAMPWASH_HOME ?? 'data');

/** The file that is to be taken in, opened by who gave the command: whom the command runs as may not read it. */
function opened(folder) {
  const file = args.find(a => !a.startsWith('-'));
  try {
    return file === undefined ? null : openSync(resolve(folder, file), 'r');
  } catch (error) {
    if (error.code === 'ENOENT') throw new PlainError(`${file}: there is no such file or folder`);
    // The command says what is wrong with it.
    return null;
  }
}

async function main() {
  ensurePackages({ quiet: true });
  ensurePerl();
  ensureBuilt({ quiet: true });
  // Paths are meant from where the command was given, not from the project's folder.
  const cwd = process.env.INIT_CWD ?? process.cwd();
  const isHelp = args.some(a => a === '--help' || a === '-h');
  // A stranger's package is read as the server reads it. What is wrong with either is said before a database is started.
  let [user, own, file] = [{}, undefined, null];
  if (name === 'restore' && !isHelp) {
    mkdirSync(home, { recursive: true });
    ({ env: own, ...user } = serverUser(home));
    if (own) file = opened(cwd);
  }
  let url = process.env.DATABASE_URL;
  let finish = () => undefined;
  if (!url && !isHelp) {
    if (name === 'backup' && !existsSync(join(clusterFolder(home), 'data'))) {
      throw new PlainError(
        `${home}: there is no shelf in this folder. Set LAMPWASH_HOME to the one that has it.`,
      );
    }
    ensurePostgres();
    const held = tryToHold(home);
    const cluster = await startCluster(home);
    url = cluster.url;
    // Where Lamp Wash runs the database is its own, and goes on.
    if (typeof held === 'function') {
      finish = () => {
        cluster.stop();
        held();
      };
    }
  }
  const child = spawn(process.execPath, [join(root, 'dist/server', `${name}.mjs`), ...args], {
    ...user,
    cwd,
    stdio: ['inherit', 'inherit', 'inherit', ...(file === null ? [] : [file])],
    env: {
      ...process.env,
      ...own,
      DATABASE_URL: url,
      LAMPWASH_HOME: home,
      ...(file !== null && { LAMPWASH_FILE: '3' }),
    },
  });
  // Ctrl-C ends the command in the terminal's group; the database is stopped behind it.
  process.on('SIGINT', () => undefined);
  const code = await new Promise(done => child.once('exit', (status, signal) => done(signal ? 1 : status)));
  finish();
  process.exit(code);
}

main().catch(error => {
  console.error(error instanceof PlainError ? error.message : error);
  process.exit(2);
});
