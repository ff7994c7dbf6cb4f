import { slug } from '../../contract/file-name';
import { getTableExactness, getTakeTable } from '../../contract/look-tables';
import { Photograph, Take } from '../data/models';
import { tableOfTake } from '../jobs/look-table';
import type { Services } from '../services';
import { notFound } from './problem';
import { implement } from './route';

/** What takes do to colours, as tables. */
export function lookTableRoutes(services: Services) {
  const find = async (id: string) => {
    const take = await Take.findOne({ where: { id, deletedAt: null } });
    const photograph = take && (await Photograph.findByPk(take.photographId));
    if (!take || !photograph) throw notFound('take');
    return { take, photograph };
  };
  return [
    implement(getTableExactness, async ({ params, query }) => {
      const { take, photograph } = await find(params.id);
      const { left, mean, worst } = await tableOfTake(services, take, photograph, query.size);
      return { left, mean, worst };
    }),
    implement(getTakeTable, async ({ params, query }, _req, res) => {
      const { take, photograph } = await find(params.id);
      const { text } = await tableOfTake(services, take, photograph, query.size);
      const name = [slug(photograph.title), take.letter.toLowerCase(), query.size].filter(Boolean).join('-');
      res.attachment(`${name}.cube`).type('text/plain; charset=utf-8');
      res.end(text);
    }),
  ];
}
