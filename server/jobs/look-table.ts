import { readFile } from 'node:fs/promises';
import { photographEdge } from '../../core/frame/geometry';
import { bareTreatment, type Treatment } from '../../core/treatment/treatment';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import type { Photograph, Take } from '../data/models';
import { sourceOf } from '../data/source';
import type { Tabulated } from '../render/table-task';
import type { Services } from '../services';
import { renderJobOf } from './output';

/** The long edge of the picture on which a table is tried. */
const EDGE = 480;

/** What a take does to colours, as a table: made once for each of its states. */
export async function tableOfTake(
  { sequelize, pictures, renderer, renders }: Services,
  take: Take,
  photograph: Photograph,
  size: number,
): Promise<Tabulated> {
  const source = sourceOf(photograph);
  const state = `${take.id} ${take.currentState}`;
  const path = await renders.file(source.sha256, `table 1 ${size} ${state}`, async () => {
    const treatment = await currentTreatment(take);
    await atHand(sequelize, treatment);
    const edge = photographEdge(source, treatment.frame, EDGE);
    const codes = async (of: Treatment) => {
      const rendered = await renderer.render({
        ...(await renderJobOf({ pictures }, source, { edge, treatment: of })),
        bits: 16,
      });
      return rendered.codes as Uint16Array;
    };
    const bare = await codes({ ...bareTreatment(), frame: treatment.frame });
    const title = `${photograph.title}, take ${take.letter}${take.name ? `, ${take.name}` : ''}`;
    const made = await renderer.tabulate(treatment, { title, size, bare, treated: await codes(treatment) });
    return Buffer.from(JSON.stringify(made));
  });
  return JSON.parse(await readFile(path, 'utf8')) as Tabulated;
}
