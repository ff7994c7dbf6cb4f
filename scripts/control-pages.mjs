import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ensurePackages, root } from './ensure.mjs';

/** `npm run controls`: docs/controls.md and its pictures, made by the engine from the demo's photographs. */

ensurePackages();
// Beside the packages that it asks for.
const folder = mkdtempSync(join(root, '.builds', 'controls-'));
try {
  const outfile = join(folder, 'control-pages.mjs');
  await build({
    entryPoints: [join(root, 'scripts/control-pages.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
  });
  process.argv[2] = root;
  await import(outfile);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
