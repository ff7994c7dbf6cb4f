import { QueryTypes } from 'sequelize';
import { changeTable, keepTable, listTables, removeTable, restoreTable } from '../../contract/tables';
import { ColourTable } from '../data/models';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { implement } from './route';

const view = ({ id, name, shelf, sha256 }: ColourTable) => ({
  id,
  name,
  group: shelf,
  sha256: sha256.trim(),
});

async function findTable(id: string): Promise<ColourTable> {
  const table = await ColourTable.findOne({ where: { id, deletedAt: null } });
  if (!table) throw notFound('colour table');
  return table;
}

/** Colour tables that are kept: named, grouped, removed. */
export function tableRoutes({ sequelize }: Services) {
  return [
    implement(listTables, async () => {
      const all = await ColourTable.findAll({
        where: { deletedAt: null },
        order: ['shelf', 'name', 'id'],
      });
      return all.map(view);
    }),
    implement(keepTable, async ({ body: { name, group, sha256 } }) => {
      const [carried] = await sequelize.query(
        `UPDATE carried SET touched_at = now() WHERE sha256 = $1 AND kind = 'table' RETURNING sha256`,
        { bind: [sha256], type: QueryTypes.SELECT },
      );
      if (!carried)
        throw new Problem(409, `The text of ${name} has not arrived.`, 'Send it to /api/carried first.');
      return view(await ColourTable.create({ name, shelf: group, sha256 }));
    }),
    implement(changeTable, async ({ params, body }) => {
      const table = await findTable(params.id);
      return view(await table.update({ name: body.name ?? table.name, shelf: body.group ?? table.shelf }));
    }),
    implement(removeTable, async ({ params }) => {
      await (await findTable(params.id)).update({ deletedAt: new Date() });
    }),
    implement(restoreTable, async ({ params }) => {
      const table = await ColourTable.findByPk(params.id);
      if (!table) throw notFound('colour table');
      return view(await table.update({ deletedAt: null }));
    }),
  ];
}
