import {
  createTake as createRoute,
  fitTake,
  getHistory,
  getTake,
  getTakePicture,
  getTakeState,
  jumpTake,
  patchTreatment as patchRoute,
  putTreatment,
  redoTake,
  removeTake,
  renameTake,
  restoreTake,
  undoTake,
} from '../../contract/takes';
import { MOST_TREATMENT } from '../../contract/limits';
import { PatchError } from '../../core/treatment/patch';
import { bareTreatment, TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import { jsonLength } from '../../core/treatment/size';
import { pauseAfter } from '../pause';
import { keepAllCarried } from '../data/carried';
import {
  createTake,
  currentTreatment,
  historyAbout,
  jump,
  NoSuchState,
  patchTreatment,
  redo,
  saveTreatment,
  StaleRevision,
  stateOfTake,
  treatmentOf,
  undo,
  viewTake,
} from '../data/history';
import { Photograph, Take } from '../data/models';
import { touchSeriesOf } from '../data/touch';
import { fittedTreatment } from '../jobs/fitted';
import { smallPicture } from '../jobs/small-picture';
import { tooLarge, type ReadTreatment } from '../render/read-treatment';
import type { Services } from '../services';
import { findPhotograph } from './photographs';
import { notFound, Problem } from './problem';
import { implement } from './route';

export async function findTake(id: string): Promise<Take> {
  const take = await Take.findOne({ where: { id, deletedAt: null } });
  if (!take) throw notFound('take');
  return take;
}

/** Takes of a series that are asked for, with their photographs and the numbers that these have in it. */
export async function takesIn(
  { id: seriesId }: { id: string },
  ids: readonly string[],
): Promise<{ take: Take; photograph: Photograph; number: number }[]> {
  const photographs = await Photograph.findAll({
    where: { seriesId, deletedAt: null },
    order: ['place', 'createdAt', 'id'],
  });
  const takes = await Take.findAll({ where: { id: [...ids], deletedAt: null } });
  return ids.map(id => {
    const take = takes.find(t => t.id === id);
    const at = photographs.findIndex(p => p.id === take?.photographId);
    if (!take || at < 0) throw notFound('take in this series');
    return { take, photograph: photographs[at], number: at + 1 };
  });
}

/** Answers what is wrong with a treatment, a patch or a revision as a problem that names it. */
async function answered<T>(work: () => Promise<T | null>): Promise<T> {
  try {
    const found = await work();
    if (found === null) throw notFound('take');
    return found;
  } catch (error) {
    if (error instanceof TreatmentError) throw new Problem(400, 'The treatment is not valid.', error.message);
    if (error instanceof PatchError) throw new Problem(400, 'The patch does not fit.', error.message);
    if (error instanceof NoSuchState) throw notFound('state of this take');
    if (error instanceof StaleRevision) {
      throw new Problem(409, error.message, 'Nothing was overwritten.', { newest: error.newest });
    }
    throw error;
  }
}

/** Refuses a treatment that is larger than one may be. */
function withinSize(treatment: Treatment): Treatment {
  if (jsonLength(treatment) > MOST_TREATMENT) throw new Problem(tooLarge.status, tooLarge.title);
  return treatment;
}

export function takeRoutes(services: Services) {
  const { sequelize } = services;

  /** Keeps what stood in a treatment in full; the treatment refers to it. */
  const keptWhole = async ({ treatment, carried }: ReadTreatment) => {
    await keepAllCarried(sequelize, carried);
    return treatment;
  };
  const touched = async <T extends { photographId: string }>(of: T): Promise<T> => {
    await touchSeriesOf(of.photographId);
    return of;
  };
  return [
    implement(createRoute, async ({ params, body }, _req, _res, whole) => {
      const photograph = await findPhotograph(params.id);
      let treatment = bareTreatment();
      if (whole) treatment = await keptWhole(whole);
      else if (body.from) {
        const source = await findTake(body.from);
        if (source.photographId !== photograph.id) throw notFound('take of this photograph');
        treatment = await currentTreatment(source);
      }
      return answered(() =>
        sequelize.transaction(async transaction => {
          await Photograph.findByPk(photograph.id, { lock: transaction.LOCK.UPDATE, transaction });
          const take = await createTake(photograph.id, treatment, body.name, transaction);
          await photograph.update({ currentTakeId: take.id }, { transaction });
          await touchSeriesOf(photograph.id, transaction);
          return viewTake(take, transaction);
        }),
      );
    }),
    implement(getTake, async ({ params }) => viewTake(await findTake(params.id))),
    implement(getTakeState, async ({ params }) => {
      const take = await findTake(params.id);
      return treatmentOf(take, params.state).catch(() => {
        throw notFound('state of this take');
      });
    }),
    implement(getHistory, async ({ params, query }) => {
      const take = await findTake(params.id);
      return answered(() => historyAbout(take, query.state, query.back));
    }),
    implement(renameTake, async ({ params, body }) => {
      const take = await findTake(params.id);
      await take.update(body);
      return touched(await stateOfTake(take));
    }),
    implement(removeTake, async ({ params }) => {
      const take = await findTake(params.id);
      await sequelize.transaction(async transaction => {
        const photograph = await Photograph.findByPk(take.photographId, {
          lock: transaction.LOCK.UPDATE,
          transaction,
        });
        const others = await Take.findAll({
          where: { photographId: take.photographId, deletedAt: null },
          order: [['letter', 'ASC']],
          transaction,
        });
        const rest = others.filter(t => t.id !== take.id);
        if (rest.length === 0)
          throw new Problem(
            409,
            'A photograph keeps at least one take.',
            'Begin another one first, or put the photograph aside.',
          );
        await take.update({ deletedAt: new Date() }, { transaction });
        await touchSeriesOf(take.photographId, transaction);
        if (photograph!.currentTakeId === take.id) {
          const nearest = rest.filter(t => t.letter < take.letter).at(-1) ?? rest[0];
          await photograph!.update({ currentTakeId: nearest.id }, { transaction });
        }
      });
    }),
    implement(restoreTake, async ({ params }) => {
      const take = await Take.findByPk(params.id);
      if (!take) throw notFound('take');
      await take.update({ deletedAt: null });
      await Photograph.update({ currentTakeId: take.id }, { where: { id: take.photographId } });
      return touched(await stateOfTake(take));
    }),
    implement(patchRoute, async ({ params, body }) => {
      const { patch, label, ...from } = body;
      const check = async (json: unknown) => {
        const began = performance.now();
        const treatment = parseTreatment(json);
        await pauseAfter(began);
        return withinSize(treatment);
      };
      return touched(await answered(() => patchTreatment(sequelize, params.id, from, patch, label, check)));
    }),
    implement(putTreatment, async ({ params, body }, _req, _res, whole) => {
      const treatment = await keptWhole(whole!);
      const { label, revision } = body;
      await touched(
        await answered(() => saveTreatment(sequelize, params.id, { revision }, treatment, label)),
      );
      return viewTake(await findTake(params.id));
    }),
    implement(undoTake, async ({ params, body }) =>
      touched(await answered(() => undo(sequelize, params.id, body))),
    ),
    implement(redoTake, async ({ params, body }) =>
      touched(await answered(() => redo(sequelize, params.id, body))),
    ),
    implement(jumpTake, async ({ params, body: { state, ...from } }) =>
      touched(await answered(() => jump(sequelize, params.id, from, state))),
    ),
    implement(fitTake, async ({ params }) => {
      const take = await findTake(params.id);
      const treatment = await fittedTreatment(services, take, await findPhotograph(take.photographId));
      if (treatment) return { treatment };
      throw new Problem(409, 'The series has no middle yet.', 'It has one with three treated photographs.');
    }),
    implement(getTakePicture, async ({ params, query }, _req, res) => {
      // What is put aside is shown too, where it can be brought back.
      const take = await Take.findByPk(params.id);
      const photograph = take && (await Photograph.findByPk(take.photographId));
      if (!take || !photograph) throw notFound('take');
      const file = await smallPicture(services, take, photograph, query.edge);
      const fresh = query.revision === take.revision;
      res.type('image/jpeg');
      await new Promise<void>((resolve, reject) => {
        const headers = { 'Cache-Control': fresh ? 'private, max-age=31536000, immutable' : 'no-cache' };
        res.sendFile(file, { headers, cacheControl: false, dotfiles: 'allow' }, error =>
          error ? reject(error) : resolve(),
        );
      });
    }),
  ];
}
