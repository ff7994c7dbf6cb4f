import { build as bundle } from 'esbuild';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { build as buildInterface } from 'vite';

/** Builds the server (with its worker threads) and the interface into the folder that is given. */

const root = fileURLToPath(new URL('..', import.meta.url));
process.chdir(root);
const [outdir] = process.argv.slice(2);
if (!outdir) throw new Error('give the folder to build into (npm run build does)');

/** What is wrong is printed by the bundlers; a stack of this script adds nothing. */
const failed = () => process.exit(1);

const common = {
  outdir,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: false,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  logLevel: 'warning',
};

await bundle({
  entryPoints: {
    'server/main': 'server/main.ts',
    'server/worker': 'server/worker.ts',
    'server/backup': 'server/cli/backup.ts',
    'server/restore': 'server/cli/restore.ts',
    'server/sheet': 'server/cli/sheet.ts',
    'server/sheet-worker': 'server/sheets/sheet-worker.ts',
  },
  packages: 'external',
  ...common,
}).catch(failed);

/** The schemas' words in fifty other languages would be read at every start: errors are told in English. */
const englishAlone = {
  name: 'english alone',
  setup: ({ onLoad }) =>
    onLoad({ filter: /zod.v4.locales.\w+\.js$/ }, ({ path }) =>
      /(en|index)\.js$/.test(path) ? undefined : { contents: 'export default undefined;' },
    ),
};

// What must start fast: packages and all, but for native ones, and small. A render thread loads the picture library only
// where it is asked for it, and a command loads the engine while its picture is being decoded.
await bundle({
  entryPoints: {
    'server/band-worker': 'server/render/band-worker.ts',
    'server/row-worker': 'server/archive/row-worker.ts',
    'server/render': 'server/cli/render.ts',
    'server/cube': 'server/cli/cube.ts',
    'server/areas': 'server/cli/areas.ts',
  },
  external: ['sharp', 'piscina', 'lcms-wasm', 'yazl', 'wasm-vips', 'libraw-wasm'],
  ...common,
  plugins: [englishAlone],
  minifySyntax: true,
  minifyWhitespace: true,
  splitting: true,
  chunkNames: 'server/[name]-[hash]',
}).catch(failed);

await buildInterface({
  configFile: 'web/vite.config.ts',
  logLevel: 'warn',
  build: { outDir: join(outdir, 'web') },
}).catch(failed);

/** What is compressed at build time, beside itself; fonts and pictures are compressed already. */
const COMPRESSED = /\.(js|css|svg|json|wasm)$/;
/** Below this, in bytes, a packet of the network holds it anyway. */
const SMALL = 1200;
const assets = join(outdir, 'web', 'assets');
const compress = async name => {
  const bytes = await readFile(join(assets, name));
  if (bytes.length < SMALL) return;
  const quality = { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY };
  await Promise.all([
    promisify(brotliCompress)(bytes, { params: quality }).then(made =>
      writeFile(join(assets, `${name}.br`), made),
    ),
    promisify(gzip)(bytes, { level: 9 }).then(made => writeFile(join(assets, `${name}.gz`), made)),
  ]);
};
await Promise.all((await readdir(assets)).filter(name => COMPRESSED.test(name)).map(compress));
