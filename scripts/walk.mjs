import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt, ensurePackages, root } from './ensure.mjs';
import { ensurePostgres } from './cluster/binaries.mjs';
import { ensureChromium, withCluster } from './temporary.mjs';
import { run } from './tests/run.mjs';

/**
 * `npm run walk -- --minutes 30 --seed N [--files FOLDER]`: a random person at the real interface, as `npm test` walks for a minute. Walks of five
 * minutes, each from a seed of its own, until the time is over; what does not hold is told with its seed and the last acts.
 */

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '10' },
    seed: { type: 'string' },
    each: { type: 'string', default: '5' },
    files: { type: 'string' },
  },
});
const first = Number(values.seed ?? Date.now() % 1_000_000);
const each = Math.min(Number(values.each), Number(values.minutes));

ensurePackages();
ensurePostgres();
ensureChromium();
ensureBuilt();
let broken = 0;
await withCluster(async ({ url }) => {
  for (let walked = 0, seed = first; walked < Number(values.minutes); walked += each, seed++) {
    console.log(`\n— ${each} min from the seed ${seed}`);
    const env = {
      LAMPWASH_TEST_DATABASE: url,
      LAMPWASH_WALK_MINUTES: String(each),
      LAMPWASH_WALK_SEED: String(seed),
      ...(values.files && { LAMPWASH_WALK_FILES: resolve(values.files) }),
    };
    const args = [
      'test',
      '-c',
      'e2e/playwright.config.ts',
      'walk',
      '--project',
      'together',
      '--workers',
      '1',
    ];
    const { code } = await run(join(root, 'node_modules/.bin/playwright'), args, { env });
    if (code !== 0) broken++;
  }
});
console.log(broken ? `\n${broken} walks did not hold.` : '\nEvery walk held.');
process.exitCode = broken ? 1 : 0;
