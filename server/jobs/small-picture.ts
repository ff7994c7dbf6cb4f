import sharp from 'sharp';
import type { takeEdges } from '../../contract/takes';
import { photographEdge } from '../../core/frame/geometry';
import { surveyEdge } from '../../core/engine/survey';
import { SIGHT_EDGE } from '../../core/masks/finding/sight';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import type { Photograph, Take } from '../data/models';
import { sourceOf } from '../data/source';
import type { Services } from '../services';

type TakeEdge = (typeof takeEdges)[number];

/** The path of a take's small picture, a JPEG: made once for each of its states. */
export async function smallPicture(
  { sequelize, pictures, renderer, renders }: Services,
  take: Take,
  photograph: Photograph,
  longEdge: TakeEdge,
): Promise<string> {
  const treatment = await currentTreatment(take);
  const source = sourceOf(photograph);
  // A state of a take never changes.
  const state = `${take.id} ${take.currentState}`;
  return renders.file(source.sha256, `thumbnail 5 ${longEdge} ${state}`, async () => {
    await atHand(sequelize, treatment);
    const edge = photographEdge(source, treatment.frame, longEdge);
    const { codes, width, height } = await renderer.render({
      pixels: await pictures.pixels(source, edge),
      survey: () => pictures.pixels(source, surveyEdge(edge)),
      sight: () => pictures.pixels(source, SIGHT_EDGE),
      grey: source.grey,
      treatment,
      bits: 8,
    });
    return sharp(codes, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 88 })
      .toBuffer();
  });
}
