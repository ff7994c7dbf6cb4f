import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDebian } from '../ensure.mjs';
import { PlainError } from '../plain-error.mjs';

/** PostgreSQL's programs, as Debian installs them: a folder for each version. */

const LIBRARY = '/usr/lib/postgresql';

const versions = () =>
  existsSync(LIBRARY)
    ? readdirSync(LIBRARY)
        .filter(v => existsSync(join(LIBRARY, v, 'bin', 'initdb')))
        .sort((a, b) => Number(b) - Number(a))
    : [];

export function ensurePostgres() {
  ensureDebian(['postgresql'], () => versions().length > 0);
}

/** The folder of the programs that made a cluster; for a new one, of the newest. Throws a PlainError without them. */
export function binariesFor(data) {
  const file = join(data, 'PG_VERSION');
  const wanted = existsSync(file) ? readFileSync(file, 'utf8').trim() : versions()[0];
  if (versions().includes(wanted)) return join(LIBRARY, wanted, 'bin');
  throw new PlainError(
    `The database in ${data} was made by PostgreSQL ${wanted}; installed is ${versions().join(', ')}. ` +
      `Install postgresql-${wanted}, or set LAMPWASH_HOME to another folder.`,
  );
}

const isRoot = () => process.getuid() === 0;

/** PostgreSQL refuses to run as root: then it runs as Debian's own `postgres`. */
export const asOwner = (command, args) =>
  isRoot() ? ['runuser', ['-u', 'postgres', '--', command, ...args]] : [command, args];

/** User and group that the cluster belongs to; null where that is us. */
export function owner() {
  if (!isRoot()) return null;
  const [uid, gid] = ['-u', '-g'].map(flag =>
    Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout),
  );
  return { uid, gid };
}

/** Runs a program as the owner of the cluster. */
export function run(command, args, options = {}) {
  const [program, list] = asOwner(command, args);
  const result = spawnSync(program, list, { encoding: 'utf8', cwd: '/', ...options });
  return { ok: result.status === 0, text: `${result.stdout ?? ''}${result.stderr ?? ''}`.trim() };
}
