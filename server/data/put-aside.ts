import { QueryTypes, type Sequelize } from 'sequelize';
import { KEPT_ASIDE_DAYS, type AsideKind, type PutAside } from '../../contract/put-aside';

/**
 * What has been put aside: it can be brought back for some weeks, and is then removed for good, by the clock or by hand.
 * What lies in something put aside goes and comes with it, and is not told of by itself.
 */

const tables: Record<AsideKind, string> = {
  series: 'series',
  photograph: 'photographs',
  take: 'takes',
  table: 'colour_tables',
  pigment: 'pigments',
  look: 'looks',
};

/** The take that a photograph is shown by. */
const SHOWN = `(SELECT json_build_object('id', t.id, 'revision', t.revision) FROM takes t WHERE t.id = p.current_take_id)`;
/** The same of a series: of its cover, or of its first photograph. */
const SHOWN_OF_SERIES = `(SELECT json_build_object('id', t.id, 'revision', t.revision)
   FROM photographs p JOIN takes t ON t.id = p.current_take_id
  WHERE p.series_id = s.id AND p.deleted_at IS NULL ORDER BY (p.id = s.cover_id) DESC NULLS LAST, p.place LIMIT 1)`;

const LIST = `
  SELECT 'series' AS kind, s.id, s.title AS name, '' AS within, ${SHOWN_OF_SERIES} AS take, s.deleted_at AS at
    FROM series s WHERE s.deleted_at IS NOT NULL
  UNION ALL
  SELECT 'photograph', p.id, p.title, s.title, ${SHOWN}, p.deleted_at
    FROM photographs p JOIN series s ON s.id = p.series_id
   WHERE p.deleted_at IS NOT NULL AND s.deleted_at IS NULL
  UNION ALL
  SELECT 'take', t.id, trim(t.letter || ' ' || t.name), p.title,
         json_build_object('id', t.id, 'revision', t.revision), t.deleted_at
    FROM takes t JOIN photographs p ON p.id = t.photograph_id JOIN series s ON s.id = p.series_id
   WHERE t.deleted_at IS NOT NULL AND p.deleted_at IS NULL AND s.deleted_at IS NULL
  UNION ALL
  SELECT 'table', c.id, c.name, c.shelf, NULL, c.deleted_at FROM colour_tables c WHERE c.deleted_at IS NOT NULL
  UNION ALL
  SELECT 'pigment', g.id, g.name, '', NULL, g.deleted_at FROM pigments g WHERE g.deleted_at IS NOT NULL
  UNION ALL
  SELECT 'look', l.id, l.name, COALESCE(s.title, l.group), NULL, l.deleted_at
    FROM looks l LEFT JOIN series s ON s.id = l.series_id
   WHERE l.deleted_at IS NOT NULL AND s.deleted_at IS NULL
  ORDER BY at DESC, id`;

/** All that is put aside, the last first. */
export async function listPutAside(sequelize: Sequelize): Promise<PutAside[]> {
  const rows = await sequelize.query<Omit<PutAside, 'at' | 'goes'> & { at: Date }>(LIST, {
    type: QueryTypes.SELECT,
  });
  return rows.map(row => ({
    ...row,
    at: row.at.toISOString(),
    goes: new Date(row.at.getTime() + KEPT_ASIDE_DAYS * 86_400_000).toISOString(),
  }));
}

/** Removes something that is put aside, with all that is in it; whether there was such a thing. */
export async function removeForGood(sequelize: Sequelize, kind: AsideKind, id: string): Promise<boolean> {
  const gone = await sequelize.query(
    `DELETE FROM ${tables[kind]} WHERE id = $1 AND deleted_at IS NOT NULL RETURNING id`,
    { bind: [id], type: QueryTypes.SELECT },
  );
  return gone.length > 0;
}

/** Removes all that has been put aside for longer than some days, and what is known of changes of many as long ago. */
export async function removeOld(sequelize: Sequelize, days = KEPT_ASIDE_DAYS): Promise<void> {
  for (const table of Object.values(tables)) {
    await sequelize.query(`DELETE FROM ${table} WHERE deleted_at < now() - make_interval(days => $1)`, {
      bind: [days],
    });
  }
  await sequelize.query(`DELETE FROM batches WHERE created_at < now() - make_interval(days => $1)`, {
    bind: [days],
  });
}
