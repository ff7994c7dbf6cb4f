import { createHash } from 'node:crypto';
import { lstatSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { PlainError } from '../plain-error.mjs';
import { run } from './binaries.mjs';

/** Where a cluster lies, and what of it is there. */

/** Whether something is there. What cannot be looked at is not taken for missing: throws a PlainError. */
export function isThere(path) {
  try {
    lstatSync(path);
    return true;
  } catch (error) {
    if (error.code === 'ENOENT') return false;
    throw new PlainError(
      `${path} cannot be looked at (${error.code}): set its folder’s permissions and owner right. Nothing was changed.`,
    );
  }
}

/** Whether the owner of the cluster can enter a folder. */
const canEnter = folder => run('test', ['-x', folder]).ok;

/**
 * The folder for the cluster: in `home`, or where its owner cannot reach into that, one that it can. Which one was taken
 * is written down, so that a change of permissions never leads to another, empty one. Throws a PlainError.
 */
export function clusterFolder(home) {
  const own = join(resolve(home), 'postgres');
  mkdirSync(own, { recursive: true, mode: 0o755 });
  const note = join(own, 'lies-in');
  if (isThere(note)) {
    const folder = readFileSync(note, 'utf8').trim();
    if (isThere(join(folder, 'secret')) || isThere(join(folder, 'data'))) return folder;
    throw new PlainError(
      `The database of ${resolve(home)} should lie in ${folder}, and is not there. Bring it back; or, for an empty shelf, remove ${note}.`,
    );
  }
  const name = createHash('sha256').update(own).digest('hex').slice(0, 12);
  const elsewhere = `/var/lib/lampwash/${name}/postgres`;
  const isHere = isThere(join(own, 'data')) || isThere(join(own, 'secret'));
  if (isHere && canEnter(own)) return own;
  if (isHere) {
    throw new PlainError(
      `The database lies in ${own}, and the user postgres cannot reach into it: give back the permissions (chmod a+x on each folder above it). Nothing was changed.`,
    );
  }
  // Before there was a note.
  if (!isThere(join(elsewhere, 'data')) && canEnter(own)) return own;
  mkdirSync(elsewhere, { recursive: true, mode: 0o755 });
  writeFileSync(note, `${elsewhere}\n`);
  console.log(
    `The database lies in ${elsewhere}, since the user postgres cannot reach into ${resolve(home)}.`,
  );
  return elsewhere;
}
