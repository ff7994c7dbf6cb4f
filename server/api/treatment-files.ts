import { Readable } from 'node:stream';
import { slug } from '../../contract/file-name';
import { getTreatmentFiles } from '../../contract/treatment-files';
import { treatmentFile } from '../../core/treatment/carrying';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import type { Take } from '../data/models';
import type { Services } from '../services';
import { implement } from './route';
import { findSeries } from './series';
import { takesIn } from './takes';
import { giveZip } from './zip';

/** Treatments as files. */
export function treatmentFileRoutes({ sequelize }: Services) {
  /** The text of a take's file, made when it is written: one may be tens of megabytes. */
  async function* textOf(take: Take) {
    const treatment = await currentTreatment(take);
    await atHand(sequelize, treatment);
    yield `${JSON.stringify(treatmentFile(treatment), null, 1)}\n`;
  }
  return [
    implement(getTreatmentFiles, async ({ params, body }, _req, res) => {
      const series = await findSeries(params.id);
      const files = (await takesIn(series, body.takes)).map(({ take, photograph }) => {
        const name = `${[slug(photograph.title), take.letter.toLowerCase()].filter(Boolean).join('-')}.treatment.json`;
        return { name, made: new Date(), open: () => Readable.from(textOf(take)) };
      });
      if (files.length > 1) {
        await giveZip(res, `${slug(series.title) || 'series'}-treatments.zip`, files);
        return;
      }
      res.attachment(files[0].name).type('application/json');
      for await (const text of files[0].open()) res.write(text);
      res.end();
    }),
  ];
}
