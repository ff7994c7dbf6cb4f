import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { App } from '../../server/testing/running';
import { expect, test } from '../app';
import { photo } from './photographs';
import { randomOf } from './random';
import { hinder, numbersUntil, shortened, Untrue, walk, type Stand } from './walk';

/** A walk that nobody scripted: a minute of a fixed seed, or what `npm run walk` asks for. */
const minutes = Number(process.env.LAMPWASH_WALK_MINUTES ?? 1);
const seed = Number(process.env.LAMPWASH_WALK_SEED ?? 20261201);
/** So long a shorter walk is looked for. */
const SHORTEN_MS = 240_000;

const kinds = ['light', 'mono', 'split-tone', 'curve'];

/** Files of a folder that is given, to walk on others than what is made here; null where none is. */
async function givenFiles(): Promise<{ name: string; bytes: Buffer }[] | null> {
  const folder = process.env.LAMPWASH_WALK_FILES;
  if (!folder) return null;
  const names = (await readdir(folder)).sort();
  const random = randomOf(seed);
  const some = [0, 1, 2].map(() => names.splice(random.below(names.length), 1)[0]);
  return Promise.all(some.map(async name => ({ name, bytes: await readFile(join(folder, name)) })));
}

/** A series of its own to walk in: three photographs with steps, the last with a wash that is painted. */
async function standIn(app: App): Promise<Stand> {
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Walked in' });
  const photographs = [];
  const given = await givenFiles();
  for (const [i, title] of ['One', 'Two', 'Three'].entries()) {
    const { name, bytes } = given?.[i] ?? { name: `${title}.png`, bytes: await photo(i) };
    const made = await app.bringIn(series.id, bytes, name);
    if (given) await app.api('PATCH', `/api/photographs/${made.id}`, { title });
    photographs.push({ id: made.id, title });
    const wash = { kind: 'wash', mask: 'sky', settings: { pigment: { kind: 'flat', colour: '#7a96b5' } } };
    await app.api('PUT', `/api/takes/${made.currentTakeId}/treatment`, {
      revision: 1,
      treatment: {
        format: 'lampwash-treatment',
        version: 1,
        masks: i === 2 ? [{ id: 'sky', name: 'Sky', parts: [] }] : [],
        steps: [...kinds.slice(0, 2 + i).map(kind => ({ kind })), ...(i === 2 ? [wash] : [])],
      },
    });
  }
  return { series: series.id, photographs };
}

test(`a person whom nobody told what to do, for ${minutes} min from the seed ${seed}`, async ({
  page,
  app,
  faults,
}) => {
  test.setTimeout((minutes + 4) * 60_000 + SHORTEN_MS);
  await hinder(page, seed);
  let untrue: Untrue | null = null;
  let done = 0;
  try {
    const until = Date.now() + minutes * 60_000;
    done = (await walk(page, app, await standIn(app), numbersUntil(seed, until))).length;
  } catch (error) {
    if (!(error instanceof Untrue)) throw error;
    untrue = error;
  }
  if (untrue) {
    let told = untrue;
    await shortened(
      untrue.acts,
      async acts => {
        try {
          await walk(page, app, await standIn(app), acts);
          return false;
        } catch (error) {
          if (!(error instanceof Untrue)) throw error;
          if (error.said.length < told.said.length) told = error;
          return true;
        }
      },
      Date.now() + SHORTEN_MS,
    );
    const acts = (of: Untrue) =>
      of.said
        .slice(-14)
        .map(said => `  ${said}`)
        .join('\n');
    throw new Error(
      `${untrue.message}\nseed ${seed}, after\n${acts(untrue)}\nthe shortest found\n${acts(told)}`,
    );
  }
  expect(done).toBeGreaterThan(minutes * 4);
  // Requests that were made to fail are told by the browser.
  expect(faults.filter(fault => !/Failed to load resource|ERR_FAILED/.test(fault))).toEqual([]);
  faults.length = 0;
});
