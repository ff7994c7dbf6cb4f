import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { z } from 'zod';
import { Photograph, Take } from '../data/models';
import { readBlob } from '../data/blobs';
import { TILE } from '../pictures/store';
import { LONGEST_EDGE } from '../pictures/limits';
import type { Services } from '../services';
import { notFound } from './problem';
import { route } from './route';
import { photographView, sourceOf, type PhotographView } from './views';

const byId = z.strictObject({ id: z.uuid() });

export async function findPhotograph(id: string): Promise<Photograph> {
  const photograph = await Photograph.findOne({ where: { id, deletedAt: null } });
  if (!photograph) throw notFound('photograph');
  return photograph;
}

/** Photographs with their takes, in the order of their series. */
export async function listPhotographs(
  sequelize: Sequelize,
  which: { seriesId: string } | { id: string },
  transaction?: Transaction,
): Promise<PhotographView[]> {
  const [column, value] = 'id' in which ? ['p.id', which.id] : ['p.series_id', which.seriesId];
  return sequelize.query<PhotographView>(
    `SELECT p.id, p.series_id AS "seriesId", p.title, p.file_name AS "fileName", trim(p.sha256) AS sha256,
       p.media_type AS "mediaType", p.width, p.height, p.bits, p.grey, p.profile,
       p.current_take_id AS "currentTakeId",
       (SELECT json_agg(json_build_object('id', t.id, 'letter', t.letter, 'name', t.name, 'revision', t.revision,
          'steps', (SELECT coalesce(json_agg(step->>'kind'), '[]') FROM jsonb_array_elements(st.treatment->'steps') step
                     WHERE (step->>'enabled')::boolean))
          ORDER BY length(t.letter), t.letter)
        FROM takes t JOIN take_states st ON st.take_id = t.id AND st.number = t.current_state
        WHERE t.photograph_id = p.id AND t.deleted_at IS NULL) AS takes
     FROM photographs p
     WHERE ${column} = $1 AND p.deleted_at IS NULL
     ORDER BY p.place, p.created_at, p.id`,
    { bind: [value], type: QueryTypes.SELECT, transaction },
  );
}

export function photographRoutes({ sequelize, pictures }: Services) {
  const view = async (id: string) => (await listPhotographs(sequelize, { id }))[0];
  return [
    route({
      method: 'get',
      path: '/api/photographs/:id',
      summary: 'A photograph with its takes.',
      params: byId,
      answer: photographView,
      handle: async ({ params }) => {
        await findPhotograph(params.id);
        return view(params.id);
      },
    }),
    route({
      method: 'patch',
      path: '/api/photographs/:id',
      summary: 'Changes the title or the take that stands for the photograph.',
      params: byId,
      body: z.strictObject({
        title: z.string().trim().min(1).max(200).optional(),
        currentTakeId: z.uuid().optional(),
      }),
      answer: photographView,
      handle: async ({ params, body }) => {
        const photograph = await findPhotograph(params.id);
        if (body.currentTakeId) {
          const where = { id: body.currentTakeId, photographId: photograph.id, deletedAt: null };
          if (!(await Take.findOne({ where }))) throw notFound('take of this photograph');
        }
        await photograph.update(body);
        return view(params.id);
      },
    }),
    route({
      method: 'delete',
      path: '/api/photographs/:id',
      summary: 'Takes a photograph out of its series. It can be put back.',
      params: byId,
      handle: async ({ params }) => {
        await (await findPhotograph(params.id)).update({ deletedAt: new Date() });
      },
    }),
    route({
      method: 'post',
      path: '/api/photographs/:id/restore',
      summary: 'Puts a photograph back into its series.',
      params: byId,
      answer: photographView,
      handle: async ({ params }) => {
        const photograph = await Photograph.findByPk(params.id);
        if (!photograph) throw notFound('photograph');
        await photograph.update({ deletedAt: null });
        return view(params.id);
      },
    }),
    route({
      method: 'get',
      path: '/api/photographs/:id/original',
      summary: 'The file as it was brought in, byte for byte.',
      params: byId,
      gives: 'application/octet-stream',
      handle: async ({ params }, _req, res) => {
        const photograph = await findPhotograph(params.id);
        res.type(photograph.mediaType);
        res.attachment(photograph.fileName);
        const bytes = readBlob(sequelize, photograph.sha256);
        await new Promise<void>((resolve, reject) => {
          bytes.on('error', reject);
          res.on('close', resolve);
          bytes.pipe(res);
        });
      },
    }),
    route({
      method: 'get',
      path: '/api/photographs/:id/pixels/:longEdge/:column/:row',
      summary: `A tile of ${TILE} pixels a side at a long edge: 16-bit little-endian RGB, sRGB-encoded.`,
      params: z.strictObject({
        id: z.uuid(),
        longEdge: z.coerce.number().int().min(16).max(LONGEST_EDGE),
        column: z.coerce.number().int().min(0).max(1000),
        row: z.coerce.number().int().min(0).max(1000),
      }),
      gives: 'application/octet-stream',
      handle: async ({ params }, _req, res) => {
        const photograph = await findPhotograph(params.id);
        const codes = await pictures.tile(sourceOf(photograph), params.longEdge, params.column, params.row);
        if (codes.length === 0) throw notFound('tile');
        res.set('Cache-Control', 'private, max-age=31536000, immutable');
        res.type('application/octet-stream');
        res.send(Buffer.from(codes.buffer, codes.byteOffset, codes.byteLength));
      },
    }),
  ];
}
