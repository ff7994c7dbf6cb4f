import {
  keepPigments,
  listPigments,
  removePigment,
  renamePigment,
  restorePigment,
} from '../../contract/pigments';
import { KeptPigment } from '../data/models';
import { notFound } from './problem';
import { implement } from './route';

const view = ({ id, name, pigment, depth }: KeptPigment) => ({ id, name, pigment, depth });

async function findPigment(id: string): Promise<KeptPigment> {
  const pigment = await KeptPigment.findOne({ where: { id, deletedAt: null } });
  if (!pigment) throw notFound('pigment');
  return pigment;
}

/** The pigment box: kept, named, removed. */
export function pigmentRoutes() {
  return [
    implement(listPigments, async () => {
      const all = await KeptPigment.findAll({ where: { deletedAt: null }, order: ['createdAt', 'id'] });
      return all.map(view);
    }),
    implement(keepPigments, async ({ body }) => {
      const now = Date.now();
      const rows = body.pigments.map((p, i) => ({ ...p, createdAt: new Date(now + i) }));
      return (await KeptPigment.bulkCreate(rows)).map(view);
    }),
    implement(renamePigment, async ({ params, body }) =>
      view(await (await findPigment(params.id)).update(body)),
    ),
    implement(removePigment, async ({ params }) => {
      await (await findPigment(params.id)).update({ deletedAt: new Date() });
    }),
    implement(restorePigment, async ({ params }) => {
      const pigment = await KeptPigment.findByPk(params.id);
      if (!pigment) throw notFound('pigment');
      return view(await pigment.update({ deletedAt: null }));
    }),
  ];
}
