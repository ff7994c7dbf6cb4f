import { spawnSync } from 'node:child_process';
import { chmodSync, chownSync, mkdirSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { PlainError } from './plain-error.mjs';
import { serverUser } from './drop-privileges.mjs';

/** Whom the server runs as where root starts it; `nobody` stands for the user of its own. */

let folder;
let home;
const env = { LAMPWASH_USER: 'nobody' };
const nobody = Number(spawnSync('id', ['-u', 'nobody'], { encoding: 'utf8' }).stdout);
const isRoot = process.getuid() === 0;
/** Node.js itself may lie where root alone can reach. */
const canRun = isRoot && spawnSync(process.execPath, ['-e', '0'], { uid: nobody, cwd: '/' }).status === 0;
const down = given => serverUser(home, given, folder);
const owner = (...names) => statSync(join(home, ...names)).uid;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lampwash-step-'));
  chmodSync(folder, 0o755);
  home = join(folder, 'home');
  for (const name of ['cache', 'postgres']) {
    mkdirSync(join(home, name), { recursive: true, mode: 0o700 });
    writeFileSync(join(home, name, 'file'), 'words', { mode: 0o600 });
  }
  for (const name of ['package.json', 'node_modules/sharp/package.json', 'dist/server/main.mjs']) {
    mkdirSync(join(folder, dirname(name)), { recursive: true });
    writeFileSync(join(folder, name), '');
  }
});
afterEach(() => {
  rmSync(folder, { recursive: true });
  vi.restoreAllMocks();
});

describe.runIf(canRun)('started as root', () => {
  it('the server is another, who has its data folder and not the database', () => {
    const { uid, gid, env: own } = down(env);
    expect(uid).toBe(nobody);
    expect(own.HOME).toBe(home);
    expect([owner(), owner('cache'), owner('cache', 'file')]).toEqual([nobody, nobody, nobody]);
    expect([owner('postgres'), owner('postgres', 'file')]).toEqual([0, 0]);
    const as = (...command) => spawnSync(command[0], command.slice(1), { uid, gid, encoding: 'utf8' });
    expect(as('cat', join(home, 'cache', 'file')).stdout).toBe('words');
    expect(as('cat', join(home, 'postgres', 'file')).status).not.toBe(0);
    expect(as('id', '-G').stdout.trim()).toBe(String(gid));
  });

  it('what root puts there later is given at the next start, and what is another’s stays so', () => {
    down(env);
    writeFileSync(join(home, 'cache', 'restored'), '');
    writeFileSync(join(home, 'cache', 'elsewhere'), '');
    chownSync(join(home, 'cache', 'elsewhere'), 12_345, 12_345);
    down(env);
    expect([owner('cache', 'restored'), owner('cache', 'elsewhere')]).toEqual([nobody, 12_345]);
  });

  it('stays root where that is asked for, and where the other cannot reach the data: then it says so', () => {
    const said = vi.spyOn(console, 'log').mockImplementation(() => undefined);
    expect(down({ LAMPWASH_USER: 'root' })).toEqual({});
    expect(said).not.toHaveBeenCalled();
    chmodSync(folder, 0o700);
    expect(down(env)).toEqual({});
    expect(said.mock.calls.join()).toContain(`nobody cannot reach into ${folder}`);
    expect(owner()).toBe(0);
    chmodSync(folder, 0o755);
    chmodSync(join(folder, 'dist'), 0o700);
    expect(down(env)).toEqual({});
    expect(said).toHaveBeenCalledTimes(2);
  });

  it('a user that is not there, a key it cannot read and a folder it cannot write are named', () => {
    expect(() => down({ LAMPWASH_USER: 'nobody-at-all' })).toThrow(
      new PlainError('LAMPWASH_USER: there is no user nobody-at-all.'),
    );
    const key = join(folder, 'key.pem');
    writeFileSync(key, 'key', { mode: 0o600 });
    expect(() => down({ ...env, LAMPWASH_TLS_KEY: key })).toThrow(
      `LAMPWASH_TLS_KEY: ${key} cannot be read by the user nobody`,
    );
    const backups = join(folder, 'backups');
    mkdirSync(backups, { mode: 0o700 });
    expect(() => down({ ...env, LAMPWASH_BACKUPS: backups })).toThrow('cannot be written');
    // One that is made for it is its own; a file that is not there is told by whoever reads it.
    const made = join(folder, 'made');
    down({ ...env, LAMPWASH_BACKUPS: made, LAMPWASH_TLS_CERT: join(folder, 'none') });
    expect(statSync(made).uid).toBe(nobody);
  });
});
