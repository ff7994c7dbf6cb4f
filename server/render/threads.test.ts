import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Threads, TooMuchWork } from './threads';

type Task = { spin: number } | { eat: true } | { echo: number } | { fail: string };

/** A thread that spins for some milliseconds (or for ever), eats memory, fails, or answers. */
const SCRIPT = `export default task => {
  if ('fail' in task) throw new Error(task.fail);
  if ('eat' in task) for (const held = []; ; ) held.push(Array.from({ length: 1e6 }, Math.random));
  if ('spin' in task) for (const end = Date.now() + task.spin; Date.now() < end; );
  return task.echo ?? 'done';
};`;

let folder: string;
let threads: Threads<Task, unknown>;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-threads-'));
  const script = join(folder, 'thread.mjs');
  await writeFile(script, SCRIPT);
  threads = new Threads(script, 0, { size: 2, megabytes: 64 });
});
afterAll(async () => {
  await threads.close();
  await rm(folder, { recursive: true, force: true });
});

const echoes = (count: number) =>
  Promise.all(Array.from({ length: count }, (_, echo) => threads.run({ echo })));

describe('a piece of work', () => {
  it('that never ends is ended, and all others go on', async () => {
    const endless = threads.run({ spin: 1e9 }, { seconds: 1 });
    const others = echoes(20);
    await expect(endless).rejects.toThrow(new TooMuchWork('It took more than 1 seconds to compute.'));
    expect(await others).toEqual(Array.from({ length: 20 }, (_, i) => i));
    expect(await echoes(4)).toEqual([0, 1, 2, 3]);
  });

  it('that takes all memory is ended, and all others go on', async () => {
    const greedy = threads.run({ eat: true });
    const others = echoes(10);
    await expect(greedy).rejects.toThrow(TooMuchWork);
    expect(await others).toHaveLength(10);
    expect(await echoes(4)).toEqual([0, 1, 2, 3]);
  });

  it('has its time from when it begins, not from when it is asked for', async () => {
    const busy = [threads.run({ spin: 900 }), threads.run({ spin: 900 })];
    expect(await threads.run({ spin: 400 }, { seconds: 1 })).toBe('done');
    await Promise.all(busy);
  });

  it('that somebody waits for goes before what was asked for earlier', async () => {
    const order: string[] = [];
    const note = (name: string, work: Promise<unknown>) => work.then(() => order.push(name));
    await Promise.all([
      note('a', threads.run({ spin: 300 })),
      note('b', threads.run({ spin: 300 })),
      note('later', threads.run({ spin: 200 })),
      note('later', threads.run({ spin: 200 })),
      note('urgent', threads.run({ spin: 10 }, { urgent: true })),
    ]);
    expect(order.indexOf('urgent')).toBeLessThan(order.indexOf('later'));
  });

  it('is stopped by its signal, before it begins and after, with the reason', async () => {
    const stopped = new AbortController();
    const running = threads.run({ spin: 1e9 }, { signal: stopped.signal });
    setTimeout(() => stopped.abort(new Error('put aside')), 50);
    await expect(running).rejects.toThrow('put aside');
    await expect(threads.run({ echo: 1 }, { signal: stopped.signal })).rejects.toThrow('put aside');
  });

  it('says what it failed of', async () => {
    await expect(threads.run({ fail: 'no such colour' })).rejects.toThrow('no such colour');
  });
});
