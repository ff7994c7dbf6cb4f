import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { root } from './ensure.mjs';

/** What a browser takes before a screen can be used, compressed as it is served, against its budget (tests/budgets.json). */

const web = join(root, 'dist', 'web');
const manifest = JSON.parse(readFileSync(join(web, '.vite', 'manifest.json'), 'utf8'));
const { load } = JSON.parse(readFileSync(join(root, 'scripts', 'tests', 'budgets.json'), 'utf8'));

/** The scripts that are imported by some, with them. */
function withImports(names, found = new Set()) {
  for (const name of names) {
    if (found.has(name)) continue;
    found.add(name);
    withImports(manifest[name].imports ?? [], found);
  }
  return [...found].map(name => manifest[name].file);
}
/** In bytes; small files are not compressed. */
const served = file => {
  const path = join(web, file);
  return (statSync(`${path}.br`, { throwIfNoEntry: false }) ?? statSync(path)).size;
};
const sum = files => files.reduce((all, file) => all + served(file), 0);
const workers = Object.values(manifest).flatMap(({ assets = [] }) => assets.filter(a => /worker/.test(a)));

it.each([
  ['shelf', ['index.html', 'shelf/Shelf.tsx'], []],
  ['bench', ['index.html', 'bench/Bench.tsx', 'bench/sides/StepSide.tsx'], workers],
])('the %s loads within its budget', (screen, names, more) => {
  const files = [...new Set([...withImports(names), ...more])];
  expect(files.length).toBeGreaterThan(3);
  expect(sum(files)).toBeLessThanOrEqual(load[screen] * 1000);
});
