import { mkdtemp, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { FileCache, readShared } from './cache';

const [one, two] = ['1', '2'].map(digit => digit.repeat(64));
let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'lampwash-cache-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

const namesIn = (name: string) => readdir(join(folder, name));
const long = new Date(0);

it('makes a file once for many who ask, and makes it anew after it is dropped', async () => {
  const cache = new FileCache(join(folder, 'files'), 100);
  let made = 0;
  const make = async () => {
    made++;
    return Buffer.from('bytes');
  };
  const ask = () => cache.file(one, 'k', make);
  const paths = await Promise.all([ask(), ask(), ask()]);
  expect(new Set(paths).size).toBe(1);
  expect(made).toBe(1);
  await cache.file(one, 'other', async () => Buffer.alloc(100));
  await utimes(paths[0], long, long);
  await cache.prune();
  expect(await namesIn('files')).toHaveLength(1);
  expect((await readFile(await ask())).toString()).toBe('bytes');
  expect(made).toBe(2);
});

it('takes what comes in pieces, and reads it into memory that threads share', async () => {
  const cache = new FileCache(join(folder, 'pieces'), 100);
  async function* pieces() {
    yield Buffer.from('a ferry ');
    yield Buffer.from('at low water');
  }
  const path = await cache.file(one, 'k', async () => pieces());
  expect(Buffer.from(await readShared(path)).toString()).toBe('a ferry at low water');
});

it('a failed making leaves nothing behind', async () => {
  const cache = new FileCache(join(folder, 'failing'), 100);
  await expect(cache.file(one, 'k', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
  async function* breaking() {
    yield Buffer.from('half');
    throw new Error('broke off');
  }
  await expect(cache.file(one, 'k', async () => breaking())).rejects.toThrow('broke off');
  expect(await namesIn('failing')).toEqual([]);
  expect((await readFile(await cache.file(one, 'k', async () => Buffer.from('yes')))).toString()).toBe('yes');
});

it('drops the files of originals that are gone, and what a killed server left half done; the young stay', async () => {
  const cache = new FileCache(join(folder, 'swept'), 1e6);
  const stays = await cache.file(one, 'k', async () => Buffer.from('stays'));
  const goes = await cache.file(two, 'k', async () => Buffer.from('goes'));
  const part = `${stays}.99.part`;
  await writeFile(part, 'half');
  await cache.prune({ kept: new Set([one]), young: 60_000 });
  expect(await namesIn('swept')).toHaveLength(3);
  await utimes(goes, long, long);
  await utimes(part, long, long);
  await cache.prune({ kept: new Set([one]), young: 60_000 });
  expect(await namesIn('swept')).toEqual([stays.slice(stays.lastIndexOf('/') + 1)]);
});
