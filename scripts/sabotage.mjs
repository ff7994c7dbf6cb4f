import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, root } from './ensure.mjs';
import { withCluster } from './temporary.mjs';
import { run } from './tests/run.mjs';

/**
 * `npm run sabotage`: breaks the code on purpose, one thing after another, and runs the tests that should notice. What stays green is
 * named, and the command fails. Sources are put back as they were, also when it is interrupted.
 */

const unit = ['node_modules/.bin/vitest', 'run'];
const components = [...unit, '-c', 'web/vitest.config.ts'];

/** @type {{ what: string, file: string, from: string, to: string, by: string[] }[]} */
const deeds = [
  {
    what: 'a wrong sign in a mix',
    file: 'core/colour/mixes.ts',
    from: 'b + s - 2 * b * s',
    to: 'b + s + 2 * b * s',
    by: [...unit, 'core/colour/mixes'],
  },
  {
    what: 'a field bound to the setting beside it',
    file: 'web/controls/NumberControl.tsx',
    from: 'onChangeEnd={v => set(path, v, own.toLowerCase())}',
    to: "onChangeEnd={v => set(path.map(p => (p === 'hue' ? 'saturation' : p)), v, own.toLowerCase())}",
    by: [...components, 'fields'],
  },
  {
    what: 'a missing label',
    file: 'web/ui/number-box.tsx',
    from: 'aria-label={`${name}, number`}',
    to: '',
    by: [...components, 'slider'],
  },
  {
    what: 'a range of which one step alone is switched',
    file: 'web/takes/edits.ts',
    from: 'const switched = ids.reduce(',
    to: 'const switched = ids.slice(0, 1).reduce(',
    by: [...components, 'tray-line'],
  },
  {
    what: 'Delete takes no point off a curve',
    file: 'web/controls/CurveControl.tsx',
    from: "event.key !== 'Delete' && event.key !== 'Backspace'",
    to: "event.key !== 'Backspace'",
    by: [...components, 'controls.test'],
  },
  {
    what: 'a save that is dropped',
    file: 'web/takes/queue.ts',
    from: '        this.entries.shift();',
    to: '        this.entries.splice(0, 2);',
    by: [...unit, 'web/takes/queue.model'],
  },
  {
    what: 'what is held of one step goes over to the next',
    file: 'web/bench/bench-store.ts',
    from: '{ picked, held: nothingHeld, boardOpen: false }',
    to: '{ picked, boardOpen: false }',
    by: [...unit, 'web/bench/bench-store'],
  },
  {
    what: 'a brush that paints on the picture of another take',
    file: 'web/bench/picture-tool.ts',
    from: "side !== 'step' || isOtherInPlace",
    to: "side !== 'step'",
    by: [...unit, 'web/bench/picture-tool'],
  },
  {
    what: 'a tile of an old state that is taken for the new one',
    file: 'web/engine/surface.ts',
    from: '?.version !== tile.version',
    to: '?.version === undefined',
    by: [...unit, 'web/engine/surface'],
  },
  {
    what: 'a tile without its margin',
    file: 'core/steps/sharpen.ts',
    from: 'Math.ceil(3 * sigma(longEdge)) + 1',
    to: '0',
    by: [...unit, 'core/engine/margins'],
  },
  {
    what: 'a file without its author',
    file: 'server/pictures/metadata.ts',
    from: 'if (author) tags',
    to: 'if (!author) tags',
    by: [...unit, 'server/api/read-back', '-t', 'jpeg'],
  },
  {
    what: 'a number with a comma read as thousands',
    file: 'words/number-format.ts',
    from: "Math.max(digits.lastIndexOf('.'), digits.lastIndexOf(','))",
    to: "digits.lastIndexOf('.')",
    by: [...unit, 'words/number-format'],
  },
  {
    what: 'history that goes two states back',
    file: 'web/takes/line.ts',
    from: 'past.slice(0, -1)',
    to: 'past.slice(0, -2)',
    by: [...components, 'states-board'],
  },
  {
    what: 'a sign-in that nobody needs',
    file: 'server/api/sign-in.ts',
    from: "req.path === '/' ? 200 : 401",
    to: '200',
    by: [...unit, 'server/api/sign-in'],
  },
];

const wanted = process.argv.slice(2);
const chosen = deeds.filter(({ what }) => !wanted.length || wanted.some(w => what.includes(w)));
const green = [];
ensureBuilt();
await withCluster(async ({ url }) => {
  for (const { what, file, from, to, by } of chosen) {
    const path = join(root, file);
    const text = readFileSync(path, 'utf8');
    if (!text.includes(from)) {
      green.push(`${what}: ${file} has no such line any more`);
      continue;
    }
    const back = () => writeFileSync(path, text);
    process.once('exit', back);
    writeFileSync(path, text.replace(from, to));
    const [program, ...args] = by;
    const { code } = await run(join(root, program), args, {
      env: { LAMPWASH_TEST_DATABASE: url },
      hold: true,
    });
    back();
    process.off('exit', back);
    console.log(`${code ? 'red  ' : 'GREEN'}  ${what}`);
    if (code === 0) green.push(what);
  }
});
if (green.length) console.log(`\nNot noticed:\n${green.join('\n')}`);
process.exitCode = green.length ? 1 : 0;
