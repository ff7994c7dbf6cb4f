import { z } from 'zod';
import { CubeError, readCube } from '../../core/formats/cube';
import { ColourTable } from '../data/models';
import { notFound, Problem } from './problem';
import { route } from './route';

const name = z.string().trim().min(1).max(60);
const group = z.string().trim().max(60);
const byId = z.strictObject({ id: z.uuid() });
const summary = z.object({ id: z.uuid(), name: z.string(), group: z.string() });
const whole = summary.extend({ cube: z.string() });

const view = ({ id, name, shelf }: ColourTable) => ({ id, name, group: shelf });

async function findTable(id: string): Promise<ColourTable> {
  const table = await ColourTable.findOne({ where: { id, deletedAt: null } });
  if (!table) throw notFound('colour table');
  return table;
}

/** Colour tables that are kept: brought in, named, grouped, removed. */
export function tableRoutes() {
  return [
    route({
      method: 'get',
      path: '/api/tables',
      summary: 'All colour tables, by group and name, without their numbers.',
      answer: z.array(summary),
      handle: async () => {
        const all = await ColourTable.findAll({
          where: { deletedAt: null },
          attributes: ['id', 'name', 'shelf'],
          order: ['shelf', 'name', 'id'],
        });
        return all.map(view);
      },
    }),
    route({
      method: 'post',
      path: '/api/tables',
      summary: 'Keeps a colour table, given as the text of a .cube file.',
      body: z.strictObject({ name, group: group.default(''), cube: z.string().max(4_000_000) }),
      answer: summary,
      handle: async ({ body }) => {
        try {
          readCube(body.cube);
        } catch (error) {
          if (error instanceof CubeError)
            throw new Problem(400, `${body.name} is not a colour table.`, error.message);
          throw error;
        }
        return view(await ColourTable.create({ name: body.name, shelf: body.group, cube: body.cube }));
      },
    }),
    route({
      method: 'get',
      path: '/api/tables/:id',
      summary: 'A colour table with its numbers.',
      params: byId,
      answer: whole,
      handle: async ({ params }) => {
        const table = await findTable(params.id);
        return { ...view(table), cube: table.cube };
      },
    }),
    route({
      method: 'patch',
      path: '/api/tables/:id',
      summary: 'Names a colour table, or puts it into a group.',
      params: byId,
      body: z.strictObject({ name: name.optional(), group: group.optional() }),
      answer: summary,
      handle: async ({ params, body }) => {
        const table = await findTable(params.id);
        await table.update({ name: body.name ?? table.name, shelf: body.group ?? table.shelf });
        return view(table);
      },
    }),
    route({
      method: 'delete',
      path: '/api/tables/:id',
      summary: 'Removes a colour table from those kept. Takes that use it carry it on.',
      params: byId,
      handle: async ({ params }) => {
        await (await findTable(params.id)).update({ deletedAt: new Date() });
      },
    }),
    route({
      method: 'post',
      path: '/api/tables/:id/restore',
      summary: 'Brings a removed colour table back.',
      params: byId,
      answer: summary,
      handle: async ({ params }) => {
        const table = await ColourTable.findByPk(params.id);
        if (!table) throw notFound('colour table');
        await table.update({ deletedAt: null });
        return view(table);
      },
    }),
  ];
}
