import { execFile } from 'node:child_process';
import { cp, mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { build } from 'esbuild';
import { afterAll, beforeAll, expect, it } from 'vitest';

/**
 * What CONTRIBUTING says of adding things is tried: a step kind, a mask part and a file format are added to a copy of the
 * sources, each as one file and one line, and everything that should know them does: types, schema, engine, API.
 */

const STEP = `import { defineStep } from './define';
import { fraction } from '../settings/fields';

/** Light and dark exchanged. */
export const negative = defineStep({
  kind: 'negative',
  stage: 'tone',
  fields: { share: fraction(1) },
  whileHeld: () => ({ zone: { kind: 'whole', op: 'add' } }),
  automatic: { find: () => ({ settings: { share: 0.5 }, said: { what: 'moved', settings: [['share', 0.5]] } }) },
  point: ({ share }) => c => {
    for (let i = 0; i < 3; i++) c[i] += share * (1 - 2 * c[i]);
  },
});
`;

const PART = `import { fraction, position } from '../../settings/fields';
import { definePart } from '../define';

/** An upright stripe. */
export const stripe = definePart({
  kind: 'stripe',
  fields: { at: position(0.5, 0.5), width: fraction(0.25) },
  reads: 'place',
  lay: ({ at, width }, { lattice, photograph }) => {
    const values = new Float32Array(lattice.width * lattice.height);
    for (let i = 0; i < values.length; i++) {
      const x = ((lattice.x + (i % lattice.width) + 0.5) * lattice.cell) / photograph.width;
      values[i] = Math.abs(x - at[0]) <= width / 2 ? 1 : 0;
    }
    return values;
  },
  handles: settings => [{ name: 'Stripe', at: settings.at, move: at => ({ ...settings, at }) }],
});
`;

const FORMAT = `import { defineFormat } from './define';

export const gif = defineFormat({
  name: 'gif',
  title: 'a GIF',
  endings: ['gif'],
  mediaType: 'image/gif',
  bits: [8],
  profiles: ['srgb'],
  encode: picture => picture.gif().toBuffer(),
});
`;

const WALK = `import { stepKind } from './core/steps';
import { parseTreatment } from './core/treatment/schema';
import { TreatmentError } from './core/treatment/treatment';
import { whileHeld } from './core/treatment/held';
import { kindOfPart } from './core/masks/parts';
import { createPlanner } from './core/engine/plan';
import { render8 } from './core/engine/render';
import { geometryOf } from './core/frame/geometry';
import { formatOfEnding, impossible } from './server/pictures/formats';
import { encodePicture } from './server/pictures/encode';
import { sendOutSettings } from './contract/send-outs';

const treatment = parseTreatment({
  format: 'lampwash-treatment',
  version: 1,
  steps: [{ id: 's1', kind: 'negative', mask: 'm1' }],
  masks: [{ id: 'm1', parts: [{ kind: 'stripe', width: 0.5 }] }],
});
const [width, height] = [8, 2];
const codes = new Uint16Array(width * height * 3).fill(Math.round(0.2 * 65535));
const geometry = geometryOf({ width, height }, treatment.frame);
const out = new Uint8Array(width * height * 3);
const plan = createPlanner()(treatment, { grey: true, pixels: width * height });
render8(plan, { codes, width, height, x: 0, y: 0 }, out, 3, { grey: true, geometry });
let refused = '';
try {
  parseTreatment({ ...treatment, masks: [{ id: 'm1', parts: [{ kind: 'stripe', width: 7 }] }] });
} catch (error) {
  if (error instanceof TreatmentError) refused = error.path;
}
const file = await encodePicture(out, width, height, sendOutSettings.parse({ format: 'gif' }));
console.log(JSON.stringify({
  row: [...out.subarray(0, width * 3)].filter((_, i) => i % 3 === 0),
  refused,
  held: whileHeld(treatment, 's1', [['share']]).steps.length,
  found: stepKind('negative')!.automatic!.find(new Uint8Array(3)),
  handles: kindOfPart(treatment.masks[0].parts[0]).handles!(treatment.masks[0].parts[0], { width, height }).length,
  head: file.toString('latin1', 0, 3),
  ending: formatOfEnding('gif')?.mediaType,
  impossible: impossible({ format: 'gif', bits: 16, profile: 'srgb' }),
}));
`;

const run = promisify(execFile);
let copy: string;

/** Adds a line to a list: its import before all others, its name at the head of what is listed. */
async function list(path: string, name: string, from: string, head: string): Promise<void> {
  const file = join(copy, path);
  const text = await readFile(file, 'utf8');
  expect(text).toContain(head);
  await writeFile(file, `import { ${name} } from '${from}';\n${text.replace(head, `${head} ${name},`)}`);
}

beforeAll(async () => {
  copy = await mkdtemp(join(tmpdir(), 'lampwash-adding-'));
  for (const name of [
    'core',
    'contract',
    'words',
    'server',
    'web',
    'demo',
    'scripts',
    'tsconfig.json',
    'package.json',
  ]) {
    await cp(name, join(copy, name), { recursive: true });
  }
  await symlink(resolve('node_modules'), join(copy, 'node_modules'));
  await writeFile(join(copy, 'core/steps/negative.ts'), STEP);
  await list('core/steps/index.ts', 'negative', './negative', 'export const stepKinds = [');
  await writeFile(join(copy, 'core/masks/parts/stripe.ts'), PART);
  await list('core/masks/parts/index.ts', 'stripe', './stripe', 'export const partKinds = [');
  await writeFile(join(copy, 'server/pictures/formats/gif.ts'), FORMAT);
  await list(
    'server/pictures/formats/index.ts',
    'gif',
    './gif',
    'export const formats: readonly Format[] = [',
  );
  await writeFile(join(copy, 'walk.ts'), WALK);
});
afterAll(() => rm(copy, { recursive: true, force: true }));

it('a step kind, a mask part and a file format are each one file and one line', async () => {
  const tsc = resolve('node_modules/typescript-7/bin/tsc');
  const types = run(process.execPath, [tsc, '--noEmit', '-p', 'tsconfig.json'], { cwd: copy });
  await build({
    absWorkingDir: copy,
    entryPoints: ['walk.ts'],
    outfile: join(copy, 'walk.mjs'),
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'silent',
  });
  const { stdout } = await run(process.execPath, [join(copy, 'walk.mjs')], { cwd: copy });
  expect(JSON.parse(stdout)).toEqual({
    row: [51, 51, 204, 204, 204, 204, 51, 51],
    refused: 'masks[0].parts[0].width',
    held: 2,
    found: { settings: { share: 0.5 }, said: { what: 'moved', settings: [['share', 0.5]] } },
    handles: 1,
    head: 'GIF',
    ending: 'image/gif',
    impossible: 'a GIF has 8 bits',
  });
  // Nothing else in the sources had to be told of them.
  await types.catch((error: { stdout: string }) => {
    throw new Error(error.stdout);
  });
}, 180_000);
