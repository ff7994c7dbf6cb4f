import PQueue from 'p-queue';
import sharp from 'sharp';
import type { SendOutSettings } from '../../contract/send-outs';
import { surveyEdge } from '../../core/engine/survey';
import { SIGHT_EDGE } from '../../core/masks/finding/sight';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from '../data/carried';
import type { sourceOf } from '../data/source';
import { outputOf, type Output } from '../render/output';
import type { RenderJob } from '../render/renderer';
import type { Services } from '../services';

type Source = ReturnType<typeof sourceOf>;

/** What is to be rendered of a photograph at a size, its pixels as they are. */
export async function renderJobOf(
  { pictures }: Pick<Services, 'pictures'>,
  source: Source,
  { edge, treatment }: Pick<Output, 'edge' | 'treatment'>,
): Promise<Omit<RenderJob, 'bits'>> {
  return {
    pixels: await pictures.pixels(source, edge),
    survey: () => pictures.pixels(source, surveyEdge(edge)),
    sight: () => pictures.pixels(source, SIGHT_EDGE),
    found: pictures.foundIn(source),
    grey: source.grey,
    treatment,
  };
}

const turns = new PQueue({ concurrency: 2 });

/**
 * Does what needs the pixels of a large photograph for an answer, two at a time however many are asked for: each takes hundreds of
 * megabytes.
 */
export const inTurn = <T>(work: () => Promise<T>): Promise<T> => turns.add(work);

/** A part of a picture as it will go out, pixel for pixel, as a PNG: about a place (fractions of it), moved in where it would leave it. */
export async function partOfOutput(
  services: Pick<Services, 'sequelize' | 'pictures' | 'renderer'>,
  source: Source,
  of: Treatment,
  settings: SendOutSettings,
  part: { x: number; y: number; width: number; height: number },
): Promise<Buffer> {
  await atHand(services.sequelize, of);
  const output = outputOf(source, of, settings);
  const { size } = output;
  const [width, height] = [Math.min(part.width, size.width), Math.min(part.height, size.height)];
  const from = (place: number, room: number, length: number) =>
    Math.round(Math.min(Math.max(0, place * length - room / 2), length - room));
  const [left, top] = [from(part.x, width, size.width), from(part.y, height, size.height)];
  const rendered = await services.renderer.render({
    ...(await renderJobOf(services, source, output)),
    bits: 8,
    rows: { from: top, count: height },
  });
  return sharp(rendered.codes, { raw: { width: rendered.width, height, channels: 3 } })
    .extract({ left, top: 0, width, height })
    .png({ compressionLevel: 3 })
    .toBuffer();
}
