import { spawnSync } from 'node:child_process';
import { accessSync, constants, lstatSync, mkdirSync, readdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { root } from './ensure.mjs';
import { PlainError } from './plain-error.mjs';

/**
 * Started as root, the server, its codecs and Perl read strangers' files as a user of their own, who owns the data folder and
 * nothing else. It is `lampwash`, made when it is first needed, or whom `LAMPWASH_USER` names; `root` there stays root.
 */

const USER = 'lampwash';

const ask = (program, ...args) => spawnSync(program, args, { encoding: 'utf8' });

/** User and group by name; null where there is no such user. */
function find(name) {
  const [uid, gid] = ['-u', '-g'].map(flag => ask('id', flag, '--', name));
  return uid.status === 0 ? { name, uid: Number(uid.stdout), gid: Number(gid.stdout) } : null;
}

function make(name) {
  ask(
    'useradd',
    '--system',
    '--user-group',
    '--no-create-home',
    '--home-dir',
    '/nonexistent',
    '--shell',
    '/usr/sbin/nologin',
    name,
  );
  return find(name);
}

/** Whether a user has a right on a path: `-r`, `-w` or `-x`. */
const may = ({ uid, gid }, right, path) =>
  spawnSync('test', [right, path], { uid, gid, cwd: '/' }).status === 0;

/** What of the project the server is made of: where one of these can be read, all can. */
const NEEDED = ['package.json', 'node_modules/sharp/package.json', 'dist/server/main.mjs'];

/** The folder that a user must reach into to run the server, and cannot; null where there is none. */
function outOfReach(user, home, project) {
  const { uid, gid } = user;
  const runs = spawnSync(process.execPath, ['-e', '0'], { cwd: '/', uid, gid, env: {} }).status === 0;
  if (!runs) return dirname(process.execPath);
  if (!NEEDED.every(name => may(user, '-r', join(project, name)))) return project;
  const above = dirname(home);
  return may(user, '-x', above) ? null : above;
}

/** Gives a user what is root's in the data folder. The database has a user of its own. */
function give(home, { uid, gid }) {
  const mine = readdirSync(home)
    .filter(name => name !== 'postgres' && !name.startsWith('held-by'))
    .map(name => join(home, name));
  const whole = mine.length
    ? ask('chown', '-R', '-h', '--from=0', `${uid}:${gid}`, '--', ...mine).status === 0
    : true;
  return whole && (lstatSync(home).uid !== 0 || ask('chown', `${uid}:${gid}`, '--', home).status === 0);
}

/** What the configuration names beside the data folder, and the right on it that is needed. */
const NAMED = [
  ['LAMPWASH_TLS_CERT', '-r', constants.R_OK],
  ['LAMPWASH_TLS_KEY', '-r', constants.R_OK],
  ['LAMPWASH_BACKUPS', '-w', constants.W_OK],
];

function needNamed(user, env) {
  for (const [name, right, mode] of NAMED) {
    const path = env[name] && resolve(env[name]);
    if (!path) continue;
    if (name === 'LAMPWASH_BACKUPS' && mkdirSync(path, { recursive: true, mode: 0o700 })) {
      ask('chown', `${user.uid}:${user.gid}`, '--', path);
    }
    try {
      accessSync(path, mode);
    } catch {
      // Nobody has it: whoever needs it says so.
      continue;
    }
    if (may(user, right, path)) continue;
    throw new PlainError(
      `${name}: ${path} cannot be ${right === '-r' ? 'read' : 'written'} by the user ${user.name}, which the server runs as. ` +
        `Give it to that user (chown ${user.name}), or name another by LAMPWASH_USER.`,
    );
  }
}

/**
 * Whom the server is to run as.
 * @param home its data folder, which is there
 * @returns options for `spawn`: none where this is not root, or where that user cannot reach what it needs, which is said
 * Throws a PlainError.
 */
export function serverUser(home, env = process.env, project = root) {
  const name = env.LAMPWASH_USER ?? USER;
  if (process.getuid() !== 0 || name === 'root') return {};
  const user = find(name) ?? (env.LAMPWASH_USER ? null : make(name));
  if (!user && env.LAMPWASH_USER) throw new PlainError(`LAMPWASH_USER: there is no user ${name}.`);
  const away = user ? outOfReach(user, home, project) : null;
  if (!user || away || !give(home, user)) {
    const why = !user
      ? `the user ${name} could not be made`
      : away
        ? `the user ${name} cannot reach into ${away} (chmod a+rx on each folder above it)`
        : `${home} cannot be given to the user ${name}`;
    console.log(`The server runs as root: ${why}.`);
    return {};
  }
  needNamed(user, env);
  return { uid: user.uid, gid: user.gid, env: { HOME: home, USER: name, LOGNAME: name } };
}

/** This process itself becomes whom the server runs as. Throws a PlainError. */
export function dropPrivileges(home) {
  const { uid, gid, env } = serverUser(home);
  if (uid === undefined) return;
  Object.assign(process.env, env);
  process.setgroups([]);
  process.setgid(gid);
  process.setuid(uid);
}
