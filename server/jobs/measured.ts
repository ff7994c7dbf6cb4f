import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { Measures } from '../../core/analysis/evenness';
import type { Photograph, Take } from '../data/models';
import type { Services } from '../services';
import { smallPicture } from './small-picture';

/** What is measured of a take's small picture: once for each of its states. */
export async function measuresOf(services: Services, take: Take, photograph: Photograph): Promise<Measures> {
  const state = `${take.id} ${take.currentState}`;
  const path = await services.renders.file(photograph.sha256, `measures 2 ${state}`, async () => {
    const small = await smallPicture(services, take, photograph, 160);
    const codes = await sharp(small).toColourspace('srgb').removeAlpha().raw().toBuffer();
    return Buffer.from(JSON.stringify(await services.renderer.measure(codes)));
  });
  return JSON.parse(await readFile(path, 'utf8')) as Measures;
}
