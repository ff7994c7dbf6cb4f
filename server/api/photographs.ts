import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import {
  changePhotograph,
  getFound,
  getOriginal,
  getPhotograph,
  getPixels,
  removePhotograph,
  restorePhotograph,
  type Photograph as PhotographView,
} from '../../contract/photographs';
import { Photograph, Take } from '../data/models';
import { sizeOfBlob } from '../data/blobs';
import { sourceOf } from '../data/source';
import { touchSeries } from '../data/touch';
import type { Services } from '../services';
import { giveBytes } from './bytes';
import { notFound, Problem } from './problem';
import { implement } from './route';

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
       p.media_type AS "mediaType", p.width, p.height, p.bits, p.grey, p.profile, p.damage, p.part,
       p.taken, p.camera, p.author, p.caption,
       p.current_take_id AS "currentTakeId",
       (SELECT json_agg(json_build_object('id', t.id, 'letter', t.letter, 'name', t.name, 'revision', t.revision,
          'steps', st.kinds, 'frame', st.frame)
          ORDER BY t.place, length(t.letter), t.letter)
        FROM takes t JOIN take_states st ON st.take_id = t.id AND st.number = t.current_state
        WHERE t.photograph_id = p.id AND t.deleted_at IS NULL) AS takes
     FROM photographs p
     WHERE ${column} = $1 AND p.deleted_at IS NULL
     ORDER BY p.place, p.created_at, p.id`,
    { bind: [value], type: QueryTypes.SELECT, transaction },
  );
}

/** Sets the order of the takes of a photograph; refused where they are others by now. */
async function orderTakes(
  photographId: string,
  takes: readonly string[],
  transaction: Transaction,
): Promise<void> {
  const held = await Take.findAll({
    where: { photographId, deletedAt: null },
    lock: transaction.LOCK.UPDATE,
    transaction,
  });
  const places = new Map(takes.map((id, i) => [id, i]));
  if (places.size !== held.length || !held.every(t => places.has(t.id))) {
    throw new Problem(409, 'The photograph has other takes by now.', 'Load it again, then order them.');
  }
  for (const take of held) await take.update({ place: places.get(take.id)! }, { transaction });
}

export function photographRoutes({ sequelize, pictures }: Services) {
  const view = async (id: string) => (await listPhotographs(sequelize, { id }))[0];
  return [
    implement(getPhotograph, async ({ params }) => {
      await findPhotograph(params.id);
      return view(params.id);
    }),
    implement(changePhotograph, async ({ params, body }) => {
      const photograph = await findPhotograph(params.id);
      if (body.currentTakeId) {
        const where = { id: body.currentTakeId, photographId: photograph.id, deletedAt: null };
        if (!(await Take.findOne({ where }))) throw notFound('take of this photograph');
      }
      const { takes, ...changed } = body;
      await sequelize.transaction(async transaction => {
        if (takes) await orderTakes(photograph.id, takes, transaction);
        await photograph.update(changed, { transaction });
        await touchSeries(photograph.seriesId, transaction);
      });
      return view(params.id);
    }),
    implement(removePhotograph, async ({ params }) => {
      const { seriesId } = await (await findPhotograph(params.id)).update({ deletedAt: new Date() });
      await touchSeries(seriesId);
    }),
    implement(restorePhotograph, async ({ params }) => {
      const photograph = await Photograph.findByPk(params.id);
      if (!photograph) throw notFound('photograph');
      await photograph.update({ deletedAt: null });
      await touchSeries(photograph.seriesId);
      return view(params.id);
    }),
    implement(getOriginal, async ({ params }, req, res) => {
      const { sha256, mediaType, fileName } = await findPhotograph(params.id);
      const size = await sizeOfBlob(sequelize, sha256);
      await giveBytes(req, res, sequelize, { sha256, size, mediaType, fileName });
    }),
    implement(getPixels, async ({ params }, _req, res) => {
      const photograph = await findPhotograph(params.id);
      const codes = await pictures.tile(sourceOf(photograph), params.longEdge, params.column, params.row);
      if (codes.length === 0) throw notFound('tile');
      res.set('Cache-Control', 'private, max-age=31536000, immutable');
      res.type('application/octet-stream');
      res.send(Buffer.from(codes.buffer, codes.byteOffset, codes.byteLength));
    }),
    implement(getFound, async ({ params, body }, _req, res) => {
      const found = pictures.foundIn(sourceOf(await findPhotograph(params.id)));
      const parts = await Promise.all(
        body.names.map(async name => {
          const packed = (await found.recall(name)) ?? new Uint8Array(0);
          const head = Buffer.alloc(4);
          head.writeUInt32LE(packed.length);
          return [head, packed];
        }),
      );
      res.type('application/octet-stream').send(Buffer.concat(parts.flat()));
    }),
  ];
}
