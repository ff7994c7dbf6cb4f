import { changeSharedLook, listSharedLooks, shareLook } from '../../contract/shared-looks';
import { asLookHas } from '../../core/treatment/looks';
import type { Treatment } from '../../core/treatment/treatment';
import { nextRevision } from '../../core/treatment/look-making';
import { keepAllCarried } from '../data/carried';
import { KeptLook } from '../data/models';
import { takesFollowing, usesOfLooks } from '../data/shared-looks';
import { touchSeries } from '../data/touch';
import { askForBatch } from '../jobs/batch';
import type { Queue } from '../jobs/queue';
import type { Services } from '../services';
import { lookCarries } from './looks';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';

/** A look that nothing is in holds nothing together. */
function withSteps(treatment: Treatment): Treatment {
  if (treatment.steps.length > 0) return asLookHas(treatment);
  throw new Problem(400, 'The treatment is not valid.', 'steps: a shared look has at least one');
}

/** Looks that a series shares: listed, shared, changed for all that follow them. */
export function sharedLookRoutes({ sequelize }: Services, queue: Queue) {
  const view = async ({ id, name, group, revision, treatment, since, seriesId }: KeptLook) => {
    const uses = (await usesOfLooks(sequelize, seriesId!)).get(id) ?? 0;
    return { id, name, group, revision, treatment, since, uses };
  };
  return [
    implement(listSharedLooks, async ({ params }) => {
      const series = await findSeries(params.id);
      const where = { seriesId: series.id, deletedAt: null };
      const looks = await KeptLook.findAll({ where, order: ['createdAt', 'id'] });
      return Promise.all(looks.map(view));
    }),
    implement(shareLook, async ({ params, body: { name, group } }, _req, _res, whole) => {
      const series = await findSeries(params.id);
      await keepAllCarried(sequelize, whole!.carried);
      const first = nextRevision(null, withSteps(whole!.treatment));
      const look = await sequelize.transaction(async transaction => {
        const made = await KeptLook.create({ name, group, seriesId: series.id, ...first }, { transaction });
        await lookCarries(sequelize, made, transaction);
        await touchSeries(series.id, transaction);
        return made;
      });
      return view(look);
    }),
    implement(changeSharedLook, async ({ params, body }, _req, _res, whole) => {
      await keepAllCarried(sequelize, whole!.carried);
      const given = withSteps(whole!.treatment);
      const { look, batch } = await sequelize.transaction(async transaction => {
        const found = await KeptLook.findOne({
          where: { id: params.id, deletedAt: null },
          lock: transaction.LOCK.UPDATE,
          transaction,
        });
        if (!found?.seriesId) throw notFound('shared look');
        if (found.revision !== body.revision) {
          throw new Problem(
            409,
            `${found.name} was changed elsewhere.`,
            'Nothing was overwritten. Look at it as it is now, then change it.',
          );
        }
        await found.update(nextRevision(found, given), { transaction });
        await lookCarries(sequelize, found, transaction);
        await touchSeries(found.seriesId, transaction);
        const takes = await takesFollowing(sequelize, found, transaction);
        const others = takes.filter(t => t.takeId !== body.except);
        if (others.length === 0) return { look: found, batch: null };
        const work = { do: 'follow', look: found.id, into: 'current' } as const;
        const of = { seriesId: found.seriesId, label: `${found.name} changed`, work };
        return { look: found, batch: await askForBatch(queue, of, others, transaction) };
      });
      queue.wake();
      return { look: await view(look), batchId: batch?.id ?? null };
    }),
  ];
}
