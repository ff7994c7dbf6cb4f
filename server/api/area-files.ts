import { Readable } from 'node:stream';
import sharp from 'sharp';
import { getAreaFiles } from '../../contract/area-files';
import { slug } from '../../contract/file-name';
import { LARGEST_AREA } from '../../contract/limits';
import { asPhotographed } from '../../core/frame/crop';
import type { Mask } from '../../core/masks/mask';
import { showingArea } from '../../core/treatment/areas';
import type { Treatment } from '../../core/treatment/treatment';
import { atHand } from '../data/carried';
import { currentTreatment } from '../data/history';
import type { Photograph } from '../data/models';
import { sourceOf } from '../data/source';
import { inTurn, renderJobOf } from '../jobs/output';
import type { Services } from '../services';
import { Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';
import { takesIn } from './takes';
import { giveZip, type Zipped } from './zip';

/** Areas as pictures. */
export function areaFileRoutes({ sequelize, pictures, renderer }: Services) {
  /** An area alone, white on black, over the whole photograph without its frame. */
  const pictureOf = async (photograph: Photograph, treatment: Treatment, area: Mask): Promise<Buffer> => {
    const source = sourceOf(photograph);
    await atHand(sequelize, treatment);
    const edge = Math.min(LARGEST_AREA, Math.max(source.width, source.height));
    const { codes, width, height } = await renderer.render({
      ...(await renderJobOf({ pictures }, source, {
        edge,
        treatment: showingArea({ ...treatment, frame: asPhotographed }, area.id, 'grey', '#ffffff'),
      })),
      bits: 8,
      profile: 'grey',
    });
    return sharp(codes, { raw: { width, height, channels: 1 } })
      .toColourspace('b-w')
      .png({ compressionLevel: 6 })
      .toBuffer();
  };

  return [
    implement(getAreaFiles, async ({ params, body }, _req, res) => {
      const series = await findSeries(params.id);
      const made = new Date();
      const files: Zipped[] = [];
      for (const { take, photograph } of await takesIn(series, body.takes)) {
        const treatment = await currentTreatment(take);
        for (const area of treatment.masks) {
          const parts = [photograph.title, take.letter.toLowerCase(), area.name].map(slug).filter(Boolean);
          // Each when its turn comes: they are made one after another.
          const open = () =>
            Readable.from(
              (async function* () {
                yield await inTurn(() => pictureOf(photograph, treatment, area));
              })(),
            );
          files.push({ name: `${parts.join('-')}.png`, made, open });
        }
      }
      if (!files.length)
        throw new Problem(409, 'None of these has an area.', 'Paint or find one first, on the Bench.');
      if (files.length > 1) {
        await giveZip(res, `${slug(series.title) || 'series'}-areas.zip`, files);
        return;
      }
      const [{ name, open }] = files;
      res.attachment(name).type('image/png');
      for await (const bytes of open()) res.write(bytes);
      res.end();
    }),
  ];
}
