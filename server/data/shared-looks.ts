import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import type { SharedLook } from '../../core/treatment/shared';
import { KeptLook } from './models';

/** Looks that a series shares, and what follows them. */

/** A shared look as it is now; null where there is none, or it is put aside. */
export async function sharedLook(id: string): Promise<SharedLook | null> {
  const look = await KeptLook.findOne({ where: { id, deletedAt: null } });
  return look?.seriesId ? look : null;
}

/** The takes that follow a look, with their photographs: all that are not put aside, shown or not. */
export function takesFollowing(
  sequelize: Sequelize,
  { id, seriesId }: KeptLook,
  transaction: Transaction,
): Promise<{ takeId: string; photographId: string }[]> {
  return sequelize.query(
    `SELECT t.id AS "takeId", p.id AS "photographId"
       FROM photographs p JOIN takes t ON t.photograph_id = p.id
       JOIN take_states st ON st.take_id = t.id AND st.number = t.current_state
      WHERE p.series_id = $1 AND p.deleted_at IS NULL AND t.deleted_at IS NULL AND st.looks ? $2
      ORDER BY p.place, p.id, length(t.letter), t.letter`,
    { bind: [seriesId, id], type: QueryTypes.SELECT, transaction },
  );
}

/** How many photographs of a series use each of its looks in the takes that they are shown by. */
export async function usesOfLooks(sequelize: Sequelize, seriesId: string): Promise<Map<string, number>> {
  const rows = await sequelize.query<{ look: string; uses: number }>(
    `SELECT look, count(*)::int AS uses
       FROM photographs p JOIN take_states st ON st.take_id = p.current_take_id
       JOIN takes t ON t.id = st.take_id AND t.current_state = st.number,
            jsonb_array_elements_text(st.looks) AS look
      WHERE p.series_id = $1 AND p.deleted_at IS NULL
      GROUP BY look`,
    { bind: [seriesId], type: QueryTypes.SELECT },
  );
  return new Map(rows.map(r => [r.look, r.uses]));
}
