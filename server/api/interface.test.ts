import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import request from 'supertest';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openInterface } from './interface';

/** The page names what the screen that is asked for will need, so that a browser fetches it at once. */

let folder: string;
const app = express();
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-interface-'));
  await mkdir(join(folder, 'assets'));
  await mkdir(join(folder, '.vite'));
  const head = '<script type="module" src="/assets/index.js" nonce="__NONCE__"></script>';
  await writeFile(join(folder, 'index.html'), `<html><head>${head}</head><body>__BUILD__</body></html>`);
  for (const name of ['index', 'bench', 'shared'])
    await writeFile(join(folder, 'assets', `${name}.js`), '//');
  const manifest = {
    'index.html': { file: 'assets/index.js' },
    'bench/Bench.tsx': { file: 'assets/bench.js', imports: ['index.html', '_shared'] },
    _shared: { file: 'assets/shared.js', imports: ['bench/Bench.tsx', '_style'] },
    _style: { file: 'assets/shared.css' },
  };
  await writeFile(join(folder, '.vite', 'manifest.json'), JSON.stringify(manifest));
  app.use((_req, res, next) => {
    res.locals.nonce = 'fresh';
    next();
  });
  openInterface(folder).serve(app);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const preloaded = async (path: string) => {
  const { text, status } = await request(app).get(path);
  expect(status).toBe(200);
  expect(text).toContain('nonce="fresh"');
  expect(text).not.toContain('__');
  return [...text.matchAll(/<link rel="modulepreload" crossorigin href="([^"]+)">/g)].map(found => found[1]);
};

it('names the modules of the screen, each once, none that the page has already, and each is there', async () => {
  const files = await preloaded('/photographs/9d4b3050-9488-4a10-a623-d2939ac7763c');
  expect(files).toEqual(['/assets/bench.js', '/assets/shared.js']);
  for (const file of files) expect((await request(app).get(file)).status).toBe(200);
});

it('names none for other addresses, and for a screen that the build does not know', async () => {
  for (const path of ['/', '/put-aside', '/photographs/a/b', '/photographs/<script>']) {
    expect(await preloaded(path), path).toEqual([]);
  }
});

it('has no build, and says so, where nothing is built', async () => {
  expect(await openInterface(join(folder, 'none')).build).toBe('');
});
