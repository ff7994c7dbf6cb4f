import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureBuilt, ensurePackages, root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';
import { dropPrivileges } from './drop-privileges.mjs';

/** Runs a command of the built server: `node scripts/run-built.mjs NAME …`. What must be installed or built is, quietly. */

const [name] = process.argv.splice(2, 1);
try {
  ensurePackages({ quiet: true });
  ensureBuilt({ quiet: true });
  // Paths are meant from where the command was given, not from the project's folder.
  if (process.env.INIT_CWD) process.chdir(process.env.INIT_CWD);
  // What works for a server reads strangers' files, as that does.
  if (name === 'worker') {
    const home = resolve(process.env.LAMPWASH_HOME ?? 'data');
    mkdirSync(home, { recursive: true });
    dropPrivileges(home);
  }
} catch (error) {
  if (!(error instanceof PlainError)) throw error;
  console.error(error.message);
  process.exit(2);
}
await import(pathToFileURL(join(root, 'dist', 'server', `${name}.mjs`)).href);
