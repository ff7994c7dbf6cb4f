import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { stages } from '../core/steps/define';
import { stepKinds } from '../core/steps';
import { sampleOf } from '../demo/controls';
import { controlsPage, sampleTreatments } from '../demo/controls-page';
import { saltmarshFerry } from '../demo/series';
import { rendered } from '../core/testing/pictures';
import { framedSize } from '../core/frame/geometry';

/** Makes docs/controls.md and its pictures, and the README's of a recoloured print, by the engine. */

const [WIDTH, HEIGHT, GAP] = [250, 166, 8];
const root = process.argv[2];

/** A photograph at a long edge, as a tile. */
async function photograph(file: string, longEdge: number | null) {
  const path = join(root, 'demo/photographs', file);
  const read = sharp(path).removeAlpha().toColourspace('srgb');
  const { data, info } = await (
    longEdge === null ? read : read.resize({ width: longEdge, height: longEdge, fit: 'inside' })
  )
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { codes: new Uint8Array(data), width: info.width, height: info.height, x: 0, y: 0 };
}

for (const { kind } of stepKinds) {
  const sample = sampleOf(kind);
  const tile = await photograph(sample.photograph, sample.natural ? null : 900);
  const prints = await Promise.all(
    sampleTreatments(kind).map(async treatment => {
      const size = framedSize(tile, treatment.frame);
      const [x, y] = sample.natural ?? [0, 0];
      const part = sample.natural && {
        x: Math.round(x * size.width - WIDTH / 2),
        y: Math.round(y * size.height - HEIGHT / 2),
        width: WIDTH,
        height: HEIGHT,
      };
      const { codes, width, height } = rendered(treatment, tile, { part });
      return sharp(
        Uint8Array.from(codes, v => v / 257 + 0.5),
        { raw: { width, height, channels: 3 } },
      )
        .resize({ width: WIDTH, height: HEIGHT, fit: 'cover' })
        .png()
        .toBuffer();
    }),
  );
  const width = prints.length * (WIDTH + GAP) + GAP;
  await sharp({ create: { width, height: HEIGHT + 2 * GAP, channels: 3, background: '#6e6e6e' } })
    .composite(prints.map((input, i) => ({ input, left: GAP + i * (WIDTH + GAP), top: GAP })))
    .webp({ quality: 80 })
    .toFile(join(root, 'docs/pictures/controls', `${kind}.webp`));
  console.log(kind);
}
/** The grey scan, and the same recoloured by twelve strokes. */
async function recoloured(): Promise<void> {
  const { file, takes } = saltmarshFerry.pictures.find(p => p.takes.some(t => t.name === 'Recoloured'))!;
  const tile = await photograph(file, 720);
  const { treatment } = takes.find(t => t.name === 'Recoloured')!;
  const { codes, width, height } = rendered(treatment, tile, { grey: true });
  const as = { raw: { width, height, channels: 3 as const } };
  const png = (values: Uint8Array) => sharp(values, as).png().toBuffer();
  const [before, after] = [await png(tile.codes), await png(Uint8Array.from(codes, v => v / 257 + 0.5))];
  await sharp({
    create: { width: 2 * width + 3 * GAP, height: height + 2 * GAP, channels: 3, background: '#6e6e6e' },
  })
    .composite([
      { input: before, left: GAP, top: GAP },
      { input: after, left: width + 2 * GAP, top: GAP },
    ])
    .webp({ quality: 84 })
    .toFile(join(root, 'docs/pictures/recoloured.webp'));
}
await recoloured();

await writeFile(join(root, 'docs/controls.md'), controlsPage());
console.log(`docs/controls.md, ${stages.length} stages`);
