import type { Sequelize, Transaction } from 'sequelize';
import { changeLook, keepLook, listLooks, removeLook, restoreLook } from '../../contract/looks';
import { carriedBy } from '../../core/treatment/carried-by';
import { asLookHas } from '../../core/treatment/looks';
import { TreatmentError } from '../../core/treatment/treatment';
import { keepAllCarried, referToCarried } from '../data/carried';
import { KeptLook } from '../data/models';
import type { Services } from '../services';
import { notFound, Problem } from './problem';
import { implement } from './route';

const view = ({ id, name, group, treatment }: KeptLook) => ({ id, name, group, treatment });

export async function findLook(id: string): Promise<KeptLook> {
  const look = await KeptLook.findOne({ where: { id, deletedAt: null } });
  if (!look) throw notFound('look');
  return look;
}

/** Keeps what a look carries for as long as there is the look. */
export async function lookCarries(sequelize: Sequelize, look: KeptLook, transaction: Transaction) {
  try {
    await referToCarried(sequelize, { look: look.id }, carriedBy(look.treatment), transaction);
  } catch (error) {
    if (!(error instanceof TreatmentError)) throw error;
    throw new Problem(400, 'The treatment is not valid.', error.message);
  }
}

/** Looks: kept, named, put aside. */
export function lookRoutes({ sequelize }: Services) {
  return [
    implement(listLooks, async () => {
      const all = await KeptLook.findAll({
        where: { deletedAt: null, seriesId: null },
        order: ['createdAt', 'id'],
      });
      return all.map(view);
    }),
    implement(keepLook, async ({ body: { name, group } }, _req, _res, whole) => {
      const { treatment: given, carried } = whole!;
      await keepAllCarried(sequelize, carried);
      const treatment = asLookHas(given);
      return sequelize.transaction(async transaction => {
        const look = await KeptLook.create({ name, group, treatment }, { transaction });
        await lookCarries(sequelize, look, transaction);
        return view(look);
      });
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
