import { changeLook, keepLook, listLooks, removeLook, restoreLook } from '../../contract/looks';
import { carriedBy } from '../../core/treatment/carried-by';
import { inNoFrame } from '../../core/treatment/looks';
import { TreatmentError } from '../../core/treatment/schema';
import { keepAllCarried, referToCarried } from '../data/carried';
import { KeptLook } from '../data/models';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { implement } from './route';

const view = ({ id, name, group, treatment }: KeptLook) => ({ id, name, group, treatment });

async function findLook(id: string): Promise<KeptLook> {
  const look = await KeptLook.findOne({ where: { id, deletedAt: null } });
  if (!look) throw notFound('look');
  return look;
}

/** Looks: kept, named, put aside. */
export function lookRoutes({ sequelize }: Services) {
  return [
    implement(listLooks, async () => {
      const all = await KeptLook.findAll({ where: { deletedAt: null }, order: ['createdAt', 'id'] });
      return all.map(view);
    }),
    implement(keepLook, async ({ body: { name, group } }, _req, _res, whole) => {
      const { treatment: given, carried } = whole!;
      await keepAllCarried(sequelize, carried);
      const treatment = inNoFrame(given);
      try {
        return await sequelize.transaction(async transaction => {
          const look = await KeptLook.create({ name, group, treatment }, { transaction });
          await referToCarried(sequelize, { look: look.id }, carriedBy(treatment), transaction);
          return view(look);
        });
      } catch (error) {
        if (error instanceof TreatmentError) {
          throw new Problem(400, 'The treatment is not valid.', error.message);
        }
        throw error;
      }
    }),
    implement(changeLook, async ({ params, body }) => view(await (await findLook(params.id)).update(body))),
    implement(removeLook, async ({ params }) => {
      await (await findLook(params.id)).update({ deletedAt: new Date() });
    }),
    implement(restoreLook, async ({ params }) => {
      const look = await KeptLook.findByPk(params.id);
      if (!look) throw notFound('look');
      return view(await look.update({ deletedAt: null }));
    }),
  ];
}
