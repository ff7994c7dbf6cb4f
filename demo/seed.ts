import { createHash, randomUUID } from 'node:crypto';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { bareTreatment, parseTreatment, type Treatment } from '../core/treatment/schema';
import { keepPhotograph } from '../server/api/import';
import { Photograph, Series } from '../server/data/models';
import type { Services } from '../server/services';
import { colourChart, toneChart, type Chart } from './charts';

const treatment = (...steps: object[]): Treatment =>
  parseTreatment({ format: 'lampwash-treatment', version: 1, steps });

const plain = treatment({
  kind: 'mono',
  settings: { method: 'response', response: { blue: -0.35, orange: 0.2 } },
});
const split = treatment(
  { kind: 'light', settings: { exposure: 0.15 } },
  { kind: 'mono', settings: { method: 'response', response: { blue: -0.35, orange: 0.2 } } },
  {
    kind: 'split-tone',
    strength: 0.85,
    settings: {
      shadows: { hue: 14, saturation: 0.22 },
      highlights: { hue: 42, saturation: 0.34 },
      balance: 0.06,
      crossover: 0.42,
    },
  },
);
const cold = treatment(
  { kind: 'mono' },
  {
    kind: 'split-tone',
    settings: { shadows: { hue: 218, saturation: 0.34 }, highlights: { hue: 205, saturation: 0.16 } },
  },
);

const demo: { title: string; chart: () => Chart; takes: { treatment: Treatment; name: string }[] }[] = [
  {
    title: 'Many colours',
    chart: colourChart,
    takes: [
      { treatment: bareTreatment(), name: 'Colour' },
      { treatment: plain, name: 'Plain mono' },
      { treatment: split, name: 'Warm split' },
    ],
  },
  {
    title: 'Tones and fine detail',
    chart: toneChart,
    takes: [
      { treatment: bareTreatment(), name: 'Bare' },
      { treatment: cold, name: 'Cold split' },
    ],
  },
];

/** Fills an empty shelf with the demo series. A shelf that has, or ever had, anything is left alone. */
export async function seedDemo(services: Services): Promise<void> {
  if ((await Series.count()) > 0) return;
  const series = await Series.create({
    title: 'Saltmarsh Ferry',
    caption: 'The last season of the hand ferry, and the house on the north bank.',
  });
  const folder = join(services.config.cacheFolder, 'uploads');
  await mkdir(folder, { recursive: true });
  for (const { title, chart, takes } of demo) {
    const { codes, width, height } = chart();
    const file = await sharp(codes, { raw: { width, height, channels: 3 } })
      .png()
      .toBuffer();
    const path = join(folder, `${randomUUID()}.upload`);
    await writeFile(path, file);
    const sha256 = createHash('sha256').update(file).digest('hex');
    const name = `${title.toLowerCase().replaceAll(' ', '-')}.png`;
    await keepPhotograph(services, series.id, { path, name, sha256, size: file.length }, title, takes);
    await rm(path);
  }
  const first = await Photograph.findOne({ where: { seriesId: series.id }, order: ['place'] });
  await series.update({ coverId: first!.id });
}
