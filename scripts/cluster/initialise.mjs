import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { PlainError } from '../plain-error.mjs';
import { binariesFor, owner, run } from './binaries.mjs';
import { isThere } from './folder.mjs';

/** A new cluster, and a new password for an old one. Nothing that holds data is ever removed. */

export const USER = 'lampwash';

function writeAsOwner(path, text) {
  writeFileSync(path, text, { mode: 0o600 });
  const other = owner();
  if (other) chownSync(path, other.uid, other.gid);
}

const newPassword = () => randomBytes(24).toString('base64url');

/** Makes a cluster beside its place; it and its password appear whole, one after the other. */
function initialise(folder) {
  const making = join(folder, 'data.making');
  const password = newPassword();
  rmSync(making, { recursive: true, force: true });
  mkdirSync(making, { recursive: true, mode: 0o700 });
  const other = owner();
  if (other) chownSync(making, other.uid, other.gid);
  chmodSync(making, 0o700);
  const passwordFile = join(folder, 'password.making');
  writeAsOwner(passwordFile, password);
  const made = run(join(binariesFor(making), 'initdb'), [
    ...['-D', making, '-U', USER, '-A', 'scram-sha-256', `--pwfile=${passwordFile}`],
    ...['--encoding=UTF8', '--locale=C.UTF-8', '--no-instructions'],
  ]);
  rmSync(passwordFile);
  if (!made.ok) {
    rmSync(making, { recursive: true, force: true });
    throw new PlainError(`The database could not be made: ${made.text.split('\n').at(-1)}`);
  }
  const secret = join(folder, 'secret');
  writeFileSync(`${secret}.making`, password, { mode: 0o600 });
  renameSync(`${secret}.making`, secret);
  renameSync(making, join(folder, 'data'));
}

const isEmpty = path => readdirSync(path).length === 0;

/** Has a cluster and its password in a folder, made where there is neither. Throws a PlainError where one is missing. */
export function ensureCluster(folder) {
  const data = join(folder, 'data');
  const secret = join(folder, 'secret');
  const making = join(folder, 'data.making');
  const hasData = isThere(data) && !isEmpty(data);
  const hasSecret = isThere(secret);
  if (hasData && hasSecret) return readFileSync(secret, 'utf8');
  if (hasData) {
    throw new PlainError(
      `The password of the database in ${data} is missing (${secret}). Nothing was changed. ` +
        'Bring that file back, or give the database a new password: npm start -- --new-password',
    );
  }
  // Ended between the two names that a new cluster gets.
  if (hasSecret && isThere(join(making, 'PG_VERSION'))) renameSync(making, data);
  else if (hasSecret) {
    throw new PlainError(
      `The database that ${secret} belongs to is missing (${data}). Nothing was changed. ` +
        `Bring that folder back; or, for an empty shelf, remove ${secret}.`,
    );
  } else {
    if (isThere(data)) renameSync(data, `${data}.empty-${Date.now()}`);
    initialise(folder);
  }
  return readFileSync(secret, 'utf8');
}

/** Gives a cluster that is not running a new password, by its owner's right. Throws a PlainError. */
export function giveNewPassword(folder) {
  const data = join(folder, 'data');
  if (!isThere(join(data, 'PG_VERSION'))) throw new PlainError(`There is no database in ${data}.`);
  const bin = binariesFor(data);
  if (run(join(bin, 'pg_ctl'), ['status', '-D', data]).ok) {
    throw new PlainError(`The database in ${data} is running: stop it first.`);
  }
  const password = newPassword();
  const { ok, text } = run(join(bin, 'postgres'), ['--single', '-D', data, 'postgres'], {
    input: `ALTER USER ${USER} PASSWORD '${password}'\n`,
  });
  if (!ok || /ERROR|FATAL/.test(text)) {
    throw new PlainError(`The password could not be changed: ${text.split('\n').at(-1)}`);
  }
  writeFileSync(join(folder, 'secret'), password, { mode: 0o600 });
}
