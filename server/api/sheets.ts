import PQueue from 'p-queue';
import { readFile } from 'node:fs/promises';
import { slug } from '../../contract/file-name';
import { makeSheet } from '../../contract/sheets';
import { Photograph, Take } from '../data/models';
import { barePicture, smallPicture } from '../jobs/small-picture';
import type { Services } from '../services';
import type { Pictured } from '../sheets/contact-sheet';
import { notFound } from './problem';
import { implement } from './route';
import { findSeries } from './series';

/** The pictures of a sheet have so many pixels along their long edge: 300 dots an inch at 8 cm. */
const EDGE = 960;
/** Made at once. */
const AT_ONCE = 3;
/** Width by height of a cell: as most pictures of the series are. */
const SHAPES = [3 / 2, 1, 2 / 3];

/** Sheets to print. */
export function sheetRoutes(services: Services) {
  return [
    implement(makeSheet, async ({ params, body: { takes: ids, settings } }, _req, res) => {
      const series = await findSeries(params.id);
      const photographs = await Photograph.findAll({
        where: { seriesId: series.id, deletedAt: null },
        order: ['place', 'createdAt', 'id'],
      });
      const takes = await Take.findAll({ where: { id: ids, deletedAt: null } });
      const shown = ids.map(id => {
        const take = takes.find(t => t.id === id);
        const at = photographs.findIndex(p => p.id === take?.photographId);
        if (!take || at < 0) throw notFound('take in this series');
        return { take, photograph: photographs[at], number: String(at + 1) };
      });
      const isPairs = settings.kind === 'before-after';
      const queue = new PQueue({ concurrency: AT_ONCE });
      const made = await queue.addAll(
        shown.map(({ take, photograph, number }) => async (): Promise<Pictured[]> => {
          const jpeg = await readFile(await smallPicture(services, take, photograph, EDGE));
          const { title } = photograph;
          const note = `Take ${take.letter}${take.name ? `, ${take.name}` : ''}`;
          const treated = { jpeg, number, title, note };
          if (!isPairs) return [treated];
          const bare = await readFile(await barePicture(services, take, photograph, EDGE));
          return [
            { jpeg: bare, number, title, note: 'As it came' },
            { ...treated, number: '', title: '' },
          ];
        }),
      );
      const wide = shown.map(({ photograph: p }) => p.width / p.height).toSorted((a, b) => a - b);
      const middle = wide[wide.length >> 1];
      const shape = SHAPES.toSorted(
        (a, b) => Math.abs(Math.log(a / middle)) - Math.abs(Math.log(b / middle)),
      )[0];
      const columns = isPairs ? Math.max(2, settings.columns - (settings.columns % 2)) : settings.columns;
      // Loaded when the first is made: fonts and PDF are no small matter.
      const { contactSheet } = await import('../sheets/contact-sheet');
      const date = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
      const pdf = await contactSheet(
        { title: series.title, date, pictures: made.flat() },
        { ...settings, columns, shape },
      );
      res.type('application/pdf');
      res.attachment(
        `${slug(series.title) || 'series'}-${isPairs ? 'before-and-after' : 'contact-sheet'}.pdf`,
      );
      res.end(Buffer.from(pdf));
    }),
  ];
}
