import { build as bundle } from 'esbuild';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
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
  },
  packages: 'external',
  ...common,
}).catch(failed);

// What must start fast is one file each, packages and all, but for native ones.
// A render thread loads the picture library only where it is asked for it.
await bundle({
  entryPoints: { 'server/band-worker': 'server/render/band-worker.ts' },
  external: ['sharp', 'lcms-wasm'],
  ...common,
  splitting: true,
  chunkNames: 'server/[name]-[hash]',
}).catch(failed);
await bundle({
  entryPoints: {
    'server/render': 'server/cli/render.ts',
    'server/cube': 'server/cli/cube.ts',
  },
  external: ['sharp', 'piscina', 'lcms-wasm'],
  ...common,
}).catch(failed);

await buildInterface({
  configFile: 'web/vite.config.ts',
  logLevel: 'warn',
  build: { outDir: join(outdir, 'web') },
}).catch(failed);
