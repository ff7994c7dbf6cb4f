import { mkdtemp, readdir, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { takeIn } from '../archive/take-in';
import { asking } from '../testing/asking';
import { testServer, type TestServer } from '../testing/server';
import { Backups } from './backups';

/** Backups by the clock: when one is due, which are kept, and what is told of one that cannot be made. */

let server: TestServer;
let folder: string;
let now: Date;
const { newSeries, photographIn } = asking(() => server);
beforeAll(async () => {
  server = await testServer();
  const { id } = await newSeries('Low water');
  await photographIn(id);
});
afterAll(() => server.close());
beforeEach(async () => {
  folder = join(await mkdtemp(join(tmpdir(), 'lampwash-backups-')), 'kept');
  now = new Date();
  return () => rm(join(folder, '..'), { recursive: true, force: true });
});

const backups = (hours = 24, kept = 3) =>
  new Backups(server.services.sequelize, { folder, hours, kept }, () => now);
const later = (hours: number) => (now = new Date(now.getTime() + hours * 3_600_000));
/** Makes one, which then is as old as the clock of the test has it. */
async function make(of: Backups): Promise<void> {
  await of.turn();
  const [last] = (await readdir(folder)).sort().reverse();
  await utimes(join(folder, last), now, now);
}

it('one is made when there is none, and again when it is due', async () => {
  const of = backups();
  expect((await of.told()).last).toBeNull();
  await make(of);
  expect(await readdir(folder)).toHaveLength(1);
  later(23);
  await of.turn();
  expect(await readdir(folder)).toHaveLength(1);
  later(1);
  await make(of);
  expect(await readdir(folder)).toHaveLength(2);
  expect((await of.told()).last?.getTime()).toBe(now.getTime());
});

it('the last few are kept, and what is not theirs is left alone', async () => {
  const of = backups(1, 2);
  for (let n = 0; n < 4; n++) {
    await make(of);
    if (n === 0) await writeFile(join(folder, 'my own.tar'), 'mine');
    later(2);
  }
  const names = await readdir(folder);
  expect(names).toHaveLength(3);
  expect(names).toContain('my own.tar');
});

it('is only its owner’s, and comes in on an empty shelf', async () => {
  await make(backups());
  const [name] = await readdir(folder);
  expect((await stat(join(folder, name))).mode & 0o777).toBe(0o600);
  expect((await stat(folder)).mode & 0o777).toBe(0o700);
  const empty = await testServer();
  const taken = await takeIn(empty.services, createReadStream(join(folder, name)));
  expect(taken.series.map(s => s.title)).toEqual(['Low water']);
  await empty.close();
  // The models of a process belong to one database: back to the first.
  await server.close();
  server = await testServer();
}, 60_000);

it('one that cannot be made is told, leaves no half, and is made when it can be', async () => {
  await writeFile(folder, 'a file in its place');
  const of = backups();
  await of.turn();
  expect((await of.told()).problem).toMatch(/EEXIST|ENOTDIR/);
  await rm(folder);
  await make(of);
  expect((await of.told()).problem).toBeNull();
  expect((await readdir(folder)).filter(name => name.endsWith('.part'))).toEqual([]);
});
