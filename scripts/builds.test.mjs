import { spawn } from 'node:child_process';
import {
  appendFileSync,
  cpSync,
  existsSync,
  lstatSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';

/** Commands that build, several at once, in a copy of the scripts whose build is a stand-in that takes a moment. */

let copy;
beforeAll(() => {
  copy = mkdtempSync(join(tmpdir(), 'lampwash-builds-'));
  cpSync('scripts', join(copy, 'scripts'), { recursive: true });
  for (const name of ['package.json', 'package-lock.json']) cpSync(name, join(copy, name));
  symlinkSync(resolve('node_modules'), join(copy, 'node_modules'));
  writeFileSync(
    join(copy, 'scripts/build.mjs'),
    `import { appendFileSync, mkdirSync, writeFileSync } from 'node:fs';
     const [folder] = process.argv.slice(2);
     appendFileSync('builds.log', 'begun\\n');
     if (process.env.BREAK) { console.error('no such file'); process.exit(1); }
     await new Promise(done => setTimeout(done, 700));
     mkdirSync(folder + '/server', { recursive: true });
     writeFileSync(folder + '/server/say.mjs', 'console.log("built")');`,
  );
});
afterAll(() => rmSync(copy, { recursive: true, force: true }));

const run = env =>
  new Promise(done => {
    const child = spawn(process.execPath, ['scripts/run-built.mjs', 'say'], {
      cwd: copy,
      env: { ...process.env, INIT_CWD: undefined, ...env },
    });
    let said = '';
    for (const out of [child.stdout, child.stderr]) out.on('data', data => (said += data));
    child.once('exit', code => done({ code, said: said.trim() }));
  });
const begun = () => {
  const log = join(copy, 'builds.log');
  return existsSync(log) ? readFileSync(log, 'utf8').split('\n').length - 1 : 0;
};
/** Changes a source, so that what is built is of an earlier state. */
const change = () => appendFileSync(join(copy, 'scripts/build.mjs'), '\n');

it('two commands at once build once, and both run', async () => {
  change();
  const before = begun();
  const all = await Promise.all([run(), run(), run()]);
  expect(all).toEqual(Array(3).fill({ code: 0, said: 'built' }));
  expect(begun() - before).toBe(1);
  expect(lstatSync(join(copy, 'dist')).isSymbolicLink()).toBe(true);
});

it('a build that fails is said, and the one before stays', async () => {
  await run();
  change();
  const before = begun();
  const { code, said } = await run({ BREAK: '1' });
  expect(code).toBe(2);
  expect(said).toContain('no such file');
  expect(existsSync(join(copy, 'dist/server/say.mjs'))).toBe(true);
  expect(await run()).toEqual({ code: 0, said: 'built' });
  expect(begun() - before).toBe(2);
});
