import { evenness, type Measures } from '../../core/analysis/evenness';
import { fitTowards } from '../../core/analysis/fit';
import { surveyEdge } from '../../core/engine/survey';
import { SIGHT_EDGE } from '../../core/masks/finding/sight';
import { photographEdge } from '../../core/frame/geometry';
import { isAtWork } from '../../core/treatment/alternatives';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import { Photograph, Take } from '../data/models';
import { sourceOf } from '../data/source';
import type { Services } from '../services';
import { measuresOf } from './measured';

/** The edge of the picture that a fit looks at: the one that evenness is measured of. */
const EDGE = 160;

/** The middle of a series as its photographs are shown now; null with too few that are treated. */
async function middleOf(services: Services, seriesId: string): Promise<Measures | null> {
  const all = await Photograph.findAll({ where: { seriesId, deletedAt: null }, order: ['place', 'id'] });
  const measured: Measures[] = [];
  for (const photograph of all) {
    const take = await Take.findByPk(photograph.currentTakeId!);
    if (!take || (await currentTreatment(take)).steps.every(s => !isAtWork(s))) continue;
    measured.push(await measuresOf(services, take, photograph));
  }
  return evenness(measured).middle;
}

/**
 * The treatment of a take brought towards the middle of its series: see `fitTowards`. Null where the series has no middle
 * yet.
 */
export async function fittedTreatment(
  services: Services,
  take: Take,
  photograph: Photograph,
): Promise<Treatment | null> {
  const middle = await middleOf(services, photograph.seriesId);
  if (!middle) return null;
  const { pictures, renderer, sequelize } = services;
  const treatment = await currentTreatment(take);
  await atHand(sequelize, treatment);
  const source = sourceOf(photograph);
  const edge = photographEdge(source, treatment.frame, EDGE);
  const pixels = await pictures.pixels(source, edge);
  return fitTowards(treatment, middle, async tried => {
    const { codes } = await renderer.render({
      pixels,
      survey: () => pictures.pixels(source, surveyEdge(edge)),
      sight: () => pictures.pixels(source, SIGHT_EDGE),
      found: pictures.foundIn(source),
      grey: source.grey,
      treatment: tried,
      bits: 8,
    });
    return renderer.measure(Uint8Array.from(codes));
  });
}
