import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Brings a fresh machine to where the application can run. Needs nothing but Node.js. */

export const root = fileURLToPath(new URL('..', import.meta.url));

/** An error that is told in one line, without a stack. */
export class PlainError extends Error {}

const hasCommand = name => spawnSync('sh', ['-c', `command -v ${name}`]).status === 0;

/** Installs Debian packages where `present` says that something is missing. */
export function ensureDebian(packages, present) {
  if (present()) return;
  if (!hasCommand('apt-get')) {
    throw new PlainError(
      `Needed but not found, and there is no apt-get to install it: ${packages.join(', ')}.`,
    );
  }
  const isRoot = process.getuid() === 0;
  if (!isRoot && !hasCommand('sudo')) {
    throw new PlainError(
      `Install these Debian packages first (root or sudo is needed): ${packages.join(', ')}.`,
    );
  }
  console.log(`Installing from Debian: ${packages.join(', ')} (once) …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (...args) =>
    spawnSync(isRoot ? 'apt-get' : 'sudo', isRoot ? args : ['apt-get', ...args], {
      env,
      stdio: ['inherit', 'ignore', 'inherit'],
    }).status === 0;
  const install = () => apt('install', '-y', '-q', '--no-install-recommends', ...packages);
  if ((!install() && !(apt('update', '-q') && install())) || !present()) {
    throw new PlainError(`Debian's packages could not be installed: ${packages.join(', ')}.`);
  }
}

const digest = text => createHash('sha256').update(text).digest('hex');

/** Runs `npm ci` where the installed packages are not those of the lock file. */
export function ensurePackages({ quiet = false } = {}) {
  const stamp = join(root, 'node_modules', '.lampwash-lock');
  const wanted = digest(readFileSync(join(root, 'package-lock.json')));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  if (!quiet) console.log('Installing packages (once) …');
  const { status } = spawnSync(
    'npm',
    ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error'],
    {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
  if (status !== 0) throw new PlainError('npm ci failed; what it said is above.');
  writeFileSync(stamp, wanted);
}

function newestOf(path, found = []) {
  const info = statSync(path, { throwIfNoEntry: false });
  if (!info) return found;
  if (info.isDirectory()) for (const name of readdirSync(path).sort()) newestOf(join(path, name), found);
  else found.push(`${path} ${info.size} ${info.mtimeMs}`);
  return found;
}

/** Builds interface and server where a source changed since the last build. */
export function ensureBuilt({ quiet = false } = {}) {
  const sources = ['core', 'server', 'web', 'demo', 'scripts/build.mjs', 'package-lock.json'];
  const state = digest(sources.flatMap(s => newestOf(join(root, s))).join('\n'));
  const stamp = join(root, 'dist', '.built');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === state) return;
  if (!quiet) console.log('Building …');
  const { status, stdout, stderr } = spawnSync('node', [join(root, 'scripts/build.mjs')], {
    cwd: root,
    encoding: 'utf8',
  });
  if (status !== 0) throw new PlainError(`The build failed.\n${stdout}${stderr}`);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, state);
}
