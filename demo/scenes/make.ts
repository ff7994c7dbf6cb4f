import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { develop, withoutFoot } from './develop';
import { readRadiance } from './hdr';
import { asGreyJpeg, scanOfOldPrint } from './old-print';
import { photographs, scenes } from './photographs';

/**
 * Makes photographs of the demo again: `npx tsx demo/scenes/make.ts NAME… [--size 1200] [--from-light]`.
 * Without names: all. `--size` is the width of the rendered picture (a small one is a preview and goes to the work
 * folder), `--from-light` develops again what was rendered before.
 */
const here = dirname(fileURLToPath(import.meta.url));
const work = process.env.LAMPWASH_SCENES ?? join(here, '..', '..', 'data', 'scenes');
const finished = join(here, '..', 'photographs');
const words = process.argv.slice(2);
const size = words.includes('--size') ? Number(words[words.indexOf('--size') + 1]) : undefined;
const names = words.filter((word, index) => !word.startsWith('--') && words[index - 1] !== '--size');
const chosen = names.length > 0 ? names : Object.keys(photographs);
mkdirSync(work, { recursive: true });

for (const name of chosen) {
  const photograph = photographs[name];
  if (!photograph)
    throw new Error(`There is no photograph "${name}". There are: ${Object.keys(photographs).join(', ')}.`);
  const { scene, view, upright, development, render = 1140 } = photograph;
  const wide = size ?? render;
  const [width, height] = upright ? [Math.round((wide * 2) / 3), wide] : [wide, Math.round((wide * 2) / 3)];
  const light = join(work, `${name}.hdr`);
  if (!words.includes('--from-light')) {
    writeFileSync(join(work, `${scene}.inc`), scenes[scene]!());
    const rendered = spawnSync(
      'nice',
      [
        '-n',
        '15',
        'timeout',
        '5400',
        'povray',
        `+I${join(here, `${scene}.pov`)}`,
        `+O${light}`,
        `+L${work}`,
        `+L${here}`,
        `+W${width}`,
        `+H${height}`,
        '+FH',
        '+WT2',
        '-D',
        '-A',
        '-V',
        '+GF',
        '-GD',
        '-GR',
        '-GS',
        `Declare=View=${view}`,
        `Declare=Final=${wide >= 1000 ? 1 : 0}`,
        '+BS16',
      ],
      { stdio: 'pipe', maxBuffer: 1 << 28 },
    );
    if (rendered.status !== 0) {
      console.error(
        `${name}: the ray tracer stopped.\n${/File '[^]*?(?=Fatal|$)/.exec(rendered.stderr.toString())?.[0] ?? ''}`,
      );
      process.exitCode = 1;
      continue;
    }
  }
  const done = develop(withoutFoot(readRadiance(readFileSync(light)), photograph.foot ?? 0), {
    ...development,
    ...(size ? { width } : upright ? { width: 1600, height: 2400 } : { width: 2400, height: 1600 }),
  });
  if (size) {
    await sharp(done.codes, { raw: { width: done.width, height: done.height, channels: 3 } })
      .toColourspace('srgb')
      .png()
      .toFile(join(work, `${name}.png`));
    continue;
  }
  mkdirSync(finished, { recursive: true });
  if (photograph.scan) {
    const scan = scanOfOldPrint(done.codes, done.width, done.height, 4);
    writeFileSync(join(finished, `${name}.jpg`), await asGreyJpeg(scan));
    continue;
  }
  const picture = () =>
    sharp(done.codes, { raw: { width: done.width, height: done.height, channels: 3 } })
      .toColourspace('srgb')
      .withIccProfile('srgb');
  for (let quality = 90; ; quality -= 3) {
    const file = await picture().jpeg({ quality, chromaSubsampling: '4:4:4', mozjpeg: true }).toBuffer();
    if (file.length > 1_450_000 && quality > 60) continue;
    writeFileSync(join(finished, `${name}.jpg`), file);
    break;
  }
  if (photograph.sixteen) {
    await sharp(done.codes, { raw: { width: done.width, height: done.height, channels: 3 } })
      .resize(960)
      .toColourspace('rgb16')
      .withIccProfile('srgb')
      .tiff({ compression: 'deflate', predictor: 'horizontal' })
      .toFile(join(finished, `${name}-16-bit.tif`));
  }
}
