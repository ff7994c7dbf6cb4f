import { QueryTypes, type Sequelize } from 'sequelize';

/** What nothing refers to any more: bytes of originals, of finished files and of what treatments carry. */

/** For how long things are kept that nothing refers to yet: they are sent before what does. */
export interface Grace {
  carried: string;
  blobs: string;
}
const GRACE: Grace = { carried: '1 day', blobs: '1 hour' };
export const NO_GRACE: Grace = { carried: '0 seconds', blobs: '0 seconds' };

/** Any number that nothing else locks by. */
const LOCK = 4870_0002;

/** Removes it, one server at a time; how many blobs were removed. */
export async function removeUnused(sequelize: Sequelize, { carried, blobs }: Grace = GRACE): Promise<number> {
  return sequelize.transaction(async transaction => {
    await sequelize.query(`SELECT pg_advisory_xact_lock(${LOCK})`, { transaction });
    await sequelize.query(
      `DELETE FROM carried c
        WHERE c.touched_at <= now() - $1::interval
          AND NOT EXISTS (SELECT 1 FROM take_carries t WHERE t.sha256 = c.sha256)
          AND NOT EXISTS (SELECT 1 FROM look_carries l WHERE l.sha256 = c.sha256)
          AND NOT EXISTS (SELECT 1 FROM colour_tables k WHERE k.sha256 = c.sha256)`,
      { bind: [carried], transaction },
    );
    const gone = await sequelize.query(
      `DELETE FROM blobs b
        WHERE b.created_at <= now() - $1::interval
          AND NOT EXISTS (SELECT 1 FROM photographs p WHERE p.sha256 = b.sha256)
          AND NOT EXISTS (SELECT 1 FROM carried c WHERE c.sha256 = b.sha256)
          AND NOT EXISTS (SELECT 1 FROM send_outs s WHERE s.result_sha256 = b.sha256)
        RETURNING sha256`,
      { bind: [blobs], type: QueryTypes.SELECT, transaction },
    );
    return gone.length;
  });
}

/** The SHA-256 of every original that is kept. */
export async function keptOriginals(sequelize: Sequelize): Promise<Set<string>> {
  const rows = await sequelize.query<{ sha256: string }>('SELECT DISTINCT sha256 FROM photographs', {
    type: QueryTypes.SELECT,
  });
  return new Set(rows.map(row => row.sha256));
}
