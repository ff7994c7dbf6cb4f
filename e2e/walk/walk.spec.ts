import { photo } from './photographs';
import { expect, test } from '../app';
import { hinder, walk } from './walk';

/** A walk that nobody scripted: a minute of a fixed seed, or what `npm run walk` asks for. */
const minutes = Number(process.env.LAMPWASH_WALK_MINUTES ?? 1);
const seed = Number(process.env.LAMPWASH_WALK_SEED ?? 20261201);

test(`a person whom nobody told what to do, for ${minutes} min from the seed ${seed}`, async ({
  page,
  app,
  faults,
}) => {
  test.setTimeout((minutes + 3) * 60_000);
  const series = await app.api<{ id: string }>('POST', '/api/series', { title: 'Walked in' });
  const photographs = [];
  for (const [i, title] of ['One', 'Two', 'Three'].entries()) {
    const made = await app.bringIn(series.id, await photo(i), `${title}.png`);
    photographs.push({ ...made, title });
    await app.api('PUT', `/api/takes/${made.currentTakeId}/treatment`, {
      revision: 1,
      treatment: {
        format: 'lampwash-treatment',
        version: 1,
        steps: ['light', 'mono', 'split-tone', 'curve'].slice(0, 2 + i).map(kind => ({ kind })),
      },
    });
  }
  await hinder(page, seed);
  const done = await walk(page, app, { photographs }, { seed, until: Date.now() + minutes * 60_000 });
  expect(done.length).toBeGreaterThan(minutes * 4);
  // Requests that were made to fail are told by the browser.
  expect(faults.filter(fault => !/Failed to load resource|ERR_FAILED/.test(fault))).toEqual([]);
  faults.length = 0;
});
