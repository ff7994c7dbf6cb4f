import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuilt, ensurePackages, ensurePerl, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { startCluster } from './cluster/cluster.mjs';
import { clusterFolder } from './cluster/folder.mjs';
import { tryToHold } from './hold.mjs';

/**
 * `npm run backup` and `npm run restore`: on the database of `LAMPWASH_HOME`, which is started for it where Lamp Wash does not run, or on that
 * of `DATABASE_URL`.
 */

const [name, ...args] = process.argv.slice(2);
const home = resolve(root, process.env.LAMPWASH_HOME ?? 'data');

async function main() {
  ensurePackages({ quiet: true });
  ensurePerl();
  ensureBuilt({ quiet: true });
  let url = process.env.DATABASE_URL;
  let finish = () => undefined;
  if (!url && !args.some(a => a === '--help' || a === '-h')) {
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
    // Paths are meant from where the command was given, not from the project's folder.
    cwd: process.env.INIT_CWD ?? process.cwd(),
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: url, LAMPWASH_HOME: home },
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
