import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  lstatSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { inTurn } from './hold.mjs';
import { PlainError } from './plain-error.mjs';

/** Brings a fresh machine to where the application can run. Needs nothing but Node.js. */

export const root = fileURLToPath(new URL('..', import.meta.url));

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

/** Perl, which writes files' metadata. */
export function ensurePerl() {
  const modules = ['Encode', 'POSIX', 'Time::Local', 'File::Basename'].map(name => `-M${name}`);
  ensureDebian(['perl'], () => spawnSync('perl', [...modules, '-e', '1']).status === 0);
}

/** Programs that tests read finished files with: they know nothing of how those were made. */
export function ensureReaders() {
  const programs = ['pdftoppm', 'pdffonts', 'unzip', 'exiftool', 'convert-im6.q16', 'ffmpeg'];
  ensureDebian(['poppler-utils', 'unzip', 'libimage-exiftool-perl', 'imagemagick', 'ffmpeg'], () =>
    programs.every(hasCommand),
  );
}

const digest = text => createHash('sha256').update(text).digest('hex');

/** Where builds lie; whoever installs or builds holds it, so that two commands at once do not undo each other's work. */
const builds = join(root, '.builds');

/** Runs `npm ci` where the installed packages are not those of the lock file. */
export function ensurePackages({ quiet = false } = {}) {
  const stamp = join(root, 'node_modules', '.lampwash-lock');
  const wanted = digest(readFileSync(join(root, 'package-lock.json')));
  const isDone = () => existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted;
  if (isDone()) return;
  inTurn(builds, () => {
    if (isDone()) return;
    if (!quiet) console.log('Installing packages (once) …');
    const options = ['--include=dev', '--no-audit', '--no-fund', '--loglevel=error'];
    const stdio = ['ignore', 'ignore', 'inherit'];
    const { status } = spawnSync('npm', ['ci', ...options], { cwd: root, stdio });
    if (status !== 0) throw new PlainError('npm ci failed; what it said is above.');
    writeFileSync(stamp, wanted);
  });
}

function newestOf(path, found = []) {
  const info = statSync(path, { throwIfNoEntry: false });
  if (!info) return found;
  if (info.isDirectory()) for (const name of readdirSync(path).sort()) newestOf(join(path, name), found);
  else found.push(`${path} ${info.size} ${info.mtimeMs}`);
  return found;
}

/** What the sources are like now. */
function stateOfSources() {
  const sources = [
    'core',
    'contract',
    'words',
    'server',
    'web',
    'demo',
    'scripts/build.mjs',
    'package-lock.json',
  ];
  return digest(sources.flatMap(s => newestOf(join(root, s))).join('\n'));
}

/** Builds kept beside the newest: servers that were started from them may still run. */
const KEPT = 2;

/** Makes a build the current one, in one step: `dist` is a link to it. */
function switchTo(build) {
  const dist = join(root, 'dist');
  if (lstatSync(dist, { throwIfNoEntry: false })?.isDirectory()) rmSync(dist, { recursive: true });
  const link = `${dist}.${process.pid}`;
  symlinkSync(relative(root, build), link);
  renameSync(link, dist);
  const others = readdirSync(builds, { withFileTypes: true })
    .filter(each => each.isDirectory() && join(builds, each.name) !== build)
    .map(each => ({ path: join(builds, each.name), at: statSync(join(builds, each.name)).mtimeMs }))
    .sort((a, b) => b.at - a.at);
  for (const { path } of others.slice(KEPT)) rmSync(path, { recursive: true });
}

/** Builds interface and server where a source changed since the last build: into a folder of its own, then switched to. */
export function ensureBuilt({ quiet = false } = {}) {
  const stamp = join(root, 'dist', '.built');
  const isBuilt = () => existsSync(stamp) && readFileSync(stamp, 'utf8') === stateOfSources();
  if (isBuilt()) return;
  inTurn(builds, () => {
    if (isBuilt()) return;
    const state = stateOfSources();
    if (!quiet) console.log('Building …');
    const build = join(builds, state.slice(0, 12));
    rmSync(build, { recursive: true, force: true });
    const { status, stdout, stderr } = spawnSync('node', [join(root, 'scripts/build.mjs'), build], {
      cwd: root,
      encoding: 'utf8',
    });
    if (status !== 0) {
      rmSync(build, { recursive: true, force: true });
      throw new PlainError(`The build failed.\n${stdout}${stderr}`);
    }
    writeFileSync(join(build, '.built'), state);
    switchTo(build);
  });
}
