import { spawnSync } from 'node:child_process';
import { ensureBuilt } from './ensure.mjs';
import { withCluster } from './temporary.mjs';
ensureBuilt();
await withCluster(async ({ url }) => {
  const r = spawnSync('node_modules/.bin/playwright', ['test', '-c', 'e2e/playwright.config.ts', ...process.argv.slice(2)], { stdio: 'inherit', env: { ...process.env, LAMPWASH_TEST_DATABASE: url } });
  process.exitCode = r.status;
});
