import { z } from 'zod';
import { photographEdge } from '../../core/frame/geometry';
import { surveyEdge } from '../../core/engine/survey';
import { bareTreatment, parseTreatment, TreatmentError, type Treatment } from '../../core/treatment/schema';
import {
  createTake,
  currentTreatment,
  redo,
  saveTreatment,
  StaleRevision,
  undo,
  viewTake,
  type TakeView,
} from '../data/history';
import { Photograph, Series, Take } from '../data/models';
import type { Services } from '../services';
import { findPhotograph } from './photographs';
import { notFound, Problem } from './problem';
import { route } from './route';
import { sourceOf, takeView } from './views';
import sharp from 'sharp';
import { createHash } from 'node:crypto';

const byId = z.strictObject({ id: z.uuid() });
const revision = z.int().min(1);

async function findTake(id: string): Promise<Take> {
  const take = await Take.findOne({ where: { id, deletedAt: null } });
  if (!take) throw notFound('take');
  return take;
}

/** Reads a treatment from a request, or answers what is wrong in it. */
function readTreatment(json: unknown): Treatment {
  try {
    return parseTreatment(json);
  } catch (error) {
    if (error instanceof TreatmentError) throw new Problem(400, 'The treatment is not valid.', error.message);
    throw error;
  }
}

/** Answers a stale save with 409 and the newer state, and a missing take with 404. */
async function orStale(work: Promise<TakeView | null>): Promise<TakeView> {
  try {
    const view = await work;
    if (!view) throw notFound('take');
    return view;
  } catch (error) {
    if (error instanceof StaleRevision) {
      throw new Problem(409, error.message, 'Nothing was overwritten.', { newest: error.newest });
    }
    throw error;
  }
}

export function takeRoutes(services: Services) {
  const { sequelize } = services;
  const touched = async (view: TakeView) => {
    const photograph = await Photograph.findByPk(view.photographId);
    await Series.update({ touchedAt: new Date() }, { where: { id: photograph!.seriesId } });
    return view;
  };
  return [
    route({
      method: 'post',
      path: '/api/photographs/:id/takes',
      summary: 'Makes a take: a copy of another one of the photograph, or bare. It becomes the current one.',
      params: byId,
      body: z.strictObject({
        from: z.uuid().optional(),
        treatment: z.unknown().optional(),
        name: z.string().max(120).default(''),
      }),
      answer: takeView,
      handle: async ({ params, body }) => {
        const photograph = await findPhotograph(params.id);
        let treatment = bareTreatment();
        if (body.treatment !== undefined) treatment = readTreatment(body.treatment);
        else if (body.from) {
          const source = await findTake(body.from);
          if (source.photographId !== photograph.id) throw notFound('take of this photograph');
          treatment = await currentTreatment(source);
        }
        return sequelize.transaction(async transaction => {
          await Photograph.findByPk(photograph.id, { lock: transaction.LOCK.UPDATE, transaction });
          const take = await createTake(photograph.id, treatment, body.name, transaction);
          await photograph.update({ currentTakeId: take.id }, { transaction });
          return viewTake(take, transaction);
        });
      },
    }),
    route({
      method: 'get',
      path: '/api/takes/:id',
      summary: 'A take with its treatment and revision.',
      params: byId,
      answer: takeView,
      handle: async ({ params }) => viewTake(await findTake(params.id)),
    }),
    route({
      method: 'patch',
      path: '/api/takes/:id',
      summary: 'Renames a take.',
      params: byId,
      body: z.strictObject({ name: z.string().trim().max(120) }),
      answer: takeView,
      handle: async ({ params, body }) => {
        const take = await findTake(params.id);
        await take.update(body);
        return viewTake(take);
      },
    }),
    route({
      method: 'delete',
      path: '/api/takes/:id',
      summary: 'Puts a take aside; a photograph keeps at least one. It can be brought back.',
      params: byId,
      handle: async ({ params }) => {
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
          if (rest.length === 0) throw new Problem(409, 'A photograph keeps at least one take.');
          await take.update({ deletedAt: new Date() }, { transaction });
          if (photograph!.currentTakeId === take.id) {
            const nearest = rest.filter(t => t.letter < take.letter).at(-1) ?? rest[0];
            await photograph!.update({ currentTakeId: nearest.id }, { transaction });
          }
        });
      },
    }),
    route({
      method: 'post',
      path: '/api/takes/:id/restore',
      summary: 'Brings a take back and makes it the current one.',
      params: byId,
      answer: takeView,
      handle: async ({ params }) => {
        const take = await Take.findByPk(params.id);
        if (!take) throw notFound('take');
        await take.update({ deletedAt: null });
        await Photograph.update({ currentTakeId: take.id }, { where: { id: take.photographId } });
        return viewTake(take);
      },
    }),
    route({
      method: 'put',
      path: '/api/takes/:id/treatment',
      summary:
        'Saves a treatment that was made from a revision; 409 with the newest state where that is stale.',
      params: byId,
      body: z.strictObject({ revision, treatment: z.unknown(), label: z.string().max(120).default('') }),
      answer: takeView,
      handle: async ({ params, body }) => {
        const treatment = readTreatment(body.treatment);
        return touched(
          await orStale(saveTreatment(sequelize, params.id, body.revision, treatment, body.label)),
        );
      },
    }),
    ...(
      [
        ['undo', undo],
        ['redo', redo],
      ] as const
    ).map(([name, step]) =>
      route({
        method: 'post',
        path: `/api/takes/:id/${name}`,
        summary: name === 'undo' ? 'Takes back the last change.' : 'Brings back what was taken back.',
        params: byId,
        body: z.strictObject({ revision }),
        answer: takeView,
        handle: async ({ params, body }) => touched(await orStale(step(sequelize, params.id, body.revision))),
      }),
    ),
    route({
      method: 'get',
      path: '/api/takes/:id/picture',
      summary: 'The take as a small JPEG for thumbnails. Put the revision into the address to have it kept.',
      params: byId,
      query: z.strictObject({
        edge: z.coerce
          .number()
          .pipe(z.union([z.literal(160), z.literal(480), z.literal(960)]))
          .default(480),
        revision: z.coerce.number().int().optional(),
      }),
      gives: 'image/jpeg',
      handle: async ({ params, query }, _req, res) => {
        const take = await findTake(params.id);
        const photograph = await findPhotograph(take.photographId);
        const treatment = await currentTreatment(take);
        const { pictures, renderer, renders } = services;
        const source = sourceOf(photograph);
        const digest = createHash('sha256').update(JSON.stringify(treatment)).digest('hex');
        const file = await renders.file(`thumbnail 3 ${source.sha256} ${query.edge} ${digest}`, async () => {
          const edge = photographEdge(source, treatment.frame, query.edge);
          const { codes, width, height } = await renderer.render({
            pixels: await pictures.pixels(source, edge),
            survey: () => pictures.pixels(source, surveyEdge(edge)),
            grey: source.grey,
            treatment,
            bits: 8,
          });
          return sharp(codes, { raw: { width, height, channels: 3 } })
            .jpeg({ quality: 88 })
            .toBuffer();
        });
        const fresh = query.revision === take.revision;
        res.type('image/jpeg');
        await new Promise<void>((resolve, reject) => {
          const headers = { 'Cache-Control': fresh ? 'private, max-age=31536000, immutable' : 'no-cache' };
          res.sendFile(file, { headers, cacheControl: false, dotfiles: 'allow' }, error =>
            error ? reject(error) : resolve(),
          );
        });
      },
    }),
  ];
}
