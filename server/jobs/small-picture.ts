import sharp from 'sharp';
import type { takeEdges } from '../../contract/takes';
import { photographEdge } from '../../core/frame/geometry';
import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import type { Photograph, Take } from '../data/models';
import { sourceOf } from '../data/source';
import type { Services } from '../services';
import { renderJobOf } from './output';

type TakeEdge = (typeof takeEdges)[number];

/** The path of a take's small picture, a JPEG: made once for each of its states. */
export async function smallPicture(
  services: Services,
  take: Take,
  photograph: Photograph,
  longEdge: TakeEdge,
): Promise<string> {
  return made(services, take, photograph, longEdge, 'thumbnail 5', treatment => treatment);
}

/** The path of the photograph as it came, in the frame that a take gives it. */
export async function barePicture(
  services: Services,
  take: Take,
  photograph: Photograph,
  longEdge: TakeEdge,
): Promise<string> {
  const bare = ({ frame }: Treatment): Treatment => ({ ...bareTreatment(), frame });
  return made(services, take, photograph, longEdge, 'bare 1', bare);
}

/** The path of what some of a take makes of its photograph: made once for each state, under a name that says which. */
export const partPicture = (
  services: Services,
  take: Take,
  photograph: Photograph,
  { edge, name, of }: { edge: TakeEdge; name: string; of: (treatment: Treatment) => Treatment },
): Promise<string> => made(services, take, photograph, edge, `part ${name} 1`, of);

async function made(
  { sequelize, pictures, renderer, renders }: Services,
  take: Take,
  photograph: Photograph,
  longEdge: TakeEdge,
  key: string,
  of: (treatment: Treatment) => Treatment,
): Promise<string> {
  const treatment = of(await currentTreatment(take));
  const source = sourceOf(photograph);
  // A state of a take never changes.
  const state = `${take.id} ${take.currentState}`;
  return renders.file(source.sha256, `${key} ${longEdge} ${state}`, async () => {
    await atHand(sequelize, treatment);
    const edge = photographEdge(source, treatment.frame, longEdge);
    const { codes, width, height } = await renderer.render({
      ...(await renderJobOf({ pictures }, source, { edge, treatment })),
      bits: 8,
    });
    return sharp(codes, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 88 })
      .toBuffer();
  });
}
