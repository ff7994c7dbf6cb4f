import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { keepPhotograph } from '../server/api/import';
import { nextRevision } from '../core/treatment/look-making';
import { followingByKind } from '../core/treatment/own-changes';
import type { Treatment } from '../core/treatment/treatment';
import { KeptLook, Photograph, Series, Take } from '../server/data/models';
import { smallPicture } from '../server/jobs/small-picture';
import type { Services } from '../server/services';
import { colourChart, toneChart } from './charts';
import { charts, saltmarshFerry, type DemoSeries } from './series';

/** The file of a photograph of the demo, or a chart made by code. */
async function fileOf(photographs: string, name: string): Promise<Buffer> {
  const chart = { 'many-colours.png': colourChart, 'tones-and-fine-detail.png': toneChart }[name];
  if (!chart) return readFile(join(photographs, name));
  const { codes, width, height } = chart();
  return sharp(codes, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** Shares the look of a series; gives what makes treatments follow it, each keeping what it has otherwise. */
async function share(seriesId: string, { name, treatment }: NonNullable<DemoSeries['shared']>) {
  const look = await KeptLook.create({ seriesId, name, group: 'Shared', ...nextRevision(null, treatment) });
  return (of: Treatment): Treatment => followingByKind(of, look);
}

async function hang(
  services: Services,
  photographs: string,
  { title, caption, cover, shared, pictures }: DemoSeries,
  onPicture: (title: string) => void,
) {
  const series = await Series.create({ title, caption, demo: true });
  const following = shared && (await share(series.id, shared));
  const folder = join(services.config.cacheFolder, 'uploads');
  await mkdir(folder, { recursive: true });
  for (const { file: name, title: called, takes: all } of pictures) {
    onPicture(called);
    const takes = all.map(take =>
      following && take.name === shared.name ? { ...take, treatment: following(take.treatment) } : take,
    );
    const file = await fileOf(photographs, name);
    const path = join(folder, `${randomUUID()}.upload`);
    await writeFile(path, file);
    const sha256 = createHash('sha256').update(file).digest('hex');
    await keepPhotograph(services, series.id, { path, name, sha256, size: file.length }, called, takes);
    await rm(path);
  }
  await makeSmallPictures(services, series.id);
  const first = await Photograph.findOne({ where: { seriesId: series.id, title: cover } });
  await series.update({ coverId: first!.id, touchedAt: new Date() });
}

/** Makes the pictures that shelf, sheet and strip show first, so that they are there at once. */
async function makeSmallPictures(services: Services, seriesId: string): Promise<void> {
  const photographs = await Photograph.findAll({ where: { seriesId } });
  await Promise.all(
    photographs.map(async photograph => {
      const take = await Take.findByPk(photograph.currentTakeId!);
      for (const edge of [480, 160] as const) await smallPicture(services, take!, photograph, edge);
    }),
  );
}

/** Lays the demo out, whatever else is on the shelf. */
export async function layOut(
  services: Services,
  photographs: string,
  onPicture: (title: string) => void = () => undefined,
): Promise<void> {
  await hang(services, photographs, charts, onPicture);
  await hang(services, photographs, saltmarshFerry, onPicture);
}

/** The file of a photograph of the demo that is good to begin with. */
export const FIRST = 'quinces-and-enamel-jug.jpg';

/**
 * Fills an empty shelf with the demo. A shelf that has, or ever had, anything is left alone.
 * @param photographs the folder with the files of the photographs
 * @param say told of each photograph that is laid out
 */
export async function seedDemo(
  services: Services,
  photographs: string,
  say: (what: string) => void = () => undefined,
): Promise<void> {
  if ((await Series.count()) > 0) return;
  const all = [charts, saltmarshFerry].reduce((sum, { pictures }) => sum + pictures.length, 0);
  let done = 0;
  await layOut(services, photographs, title => say(`Laying out the demo: ${++done} of ${all}, ${title}`));
}
