import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import express, { type Express } from 'express';
import servePrecompressed from 'express-static-gzip';

/** The built interface: its files, and its one page, which names the modules of the screen that is asked for. */

/** The screens, as the build names them, by their addresses. */
const screens: readonly [address: RegExp, module: string][] = [
  [/^\/$/, 'shelf/Shelf.tsx'],
  [/^\/series\/[\w-]+$/, 'sheet/Sheet.tsx'],
  [/^\/photographs\/[\w-]+$/, 'bench/Bench.tsx'],
];

/** What the build says of its modules (Vite's manifest). */
type Manifest = Record<string, { file: string; imports?: string[] }>;

/** The files of a module and of all that it imports, each once. */
function filesOf(manifest: Manifest, module: string, found = new Set<string>()): Set<string> {
  const entry = manifest[module];
  if (!entry || found.has(entry.file)) return found;
  found.add(entry.file);
  for (const each of entry.imports ?? []) filesOf(manifest, each, found);
  return found;
}

export interface Interface {
  /** Changes with every build: the page names its files by their hashes. Empty where nothing is built. */
  build: Promise<string>;
  serve: (app: Express) => void;
}

/** @param folder of the built interface */
export function openInterface(folder: string): Interface {
  const page = readFile(join(folder, 'index.html'), 'utf8');
  const build = page.then(
    text => createHash('sha256').update(text).digest('hex').slice(0, 16),
    () => '',
  );
  const manifest = readFile(join(folder, '.vite', 'manifest.json'), 'utf8').then(
    text => JSON.parse(text) as Manifest,
    () => ({}),
  );
  /** Links by which a browser fetches the modules of a screen beside the program that asks for them. */
  const linksFor = async (path: string): Promise<string> => {
    const module = screens.find(([address]) => address.test(path))?.[1];
    if (!module) return '';
    const files = [...filesOf(await manifest, module)].filter(file => file.endsWith('.js'));
    const given = await page;
    return files
      .filter(file => !given.includes(file))
      .map(file => `<link rel="modulepreload" crossorigin href="/${file}">`)
      .join('');
  };
  const serve = (app: Express) => {
    app.use(
      '/assets',
      // Compressed at build time.
      servePrecompressed(join(folder, 'assets'), {
        enableBrotli: true,
        orderPreference: ['br', 'gzip'],
        serveStatic: { immutable: true, maxAge: '1y', fallthrough: false },
      }),
    );
    app.use(express.static(folder, { index: false }));
    // The one page, with a fresh nonce each time.
    app.get('/{*path}', async (req, res) => {
      const nonce = res.locals.nonce as string;
      const links = await linksFor(req.path);
      res.type('html').set('Cache-Control', 'no-cache');
      res.send(
        (await page)
          .replaceAll('__NONCE__', nonce)
          .replaceAll('__BUILD__', await build)
          .replace('</head>', `${links}</head>`),
      );
    });
  };
  return { build, serve };
}
