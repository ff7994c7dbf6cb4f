/**
 * The tables that an archive holds, in an order in which each refers only to those before it, and what of them. Every table of the database
 * is here or among those left out, which a test holds.
 */

export interface ArchivedTable {
  name: string;
  /** Its columns that tell rows apart, in which they are ordered, so that what is the same is written the same. */
  key: readonly string[];
  /** Columns that refer to rows which come later: set when those are there. */
  later?: readonly string[];
  /** What of it the shelf's backup holds, as SQL; all, where it is not said. */
  where?: string;
  /** What of it one series' package holds, of `$1`, the series; nothing, where it is not said. */
  ofSeries?: string;
  /** The shelf may have such a row of its own, which then stays. */
  mayBeThere?: true;
}

const PHOTOGRAPHS = 'SELECT id FROM photographs WHERE series_id = $1 AND deleted_at IS NULL';
const TAKES = `SELECT id FROM takes WHERE deleted_at IS NULL AND photograph_id IN (${PHOTOGRAPHS})`;
const LOOKS = 'SELECT id FROM looks WHERE deleted_at IS NULL AND series_id = $1';

export const archivedTables: readonly ArchivedTable[] = [
  {
    name: 'carried',
    key: ['sha256'],
    mayBeThere: true,
    ofSeries: `sha256 IN (SELECT sha256 FROM take_carries WHERE take_id IN (${TAKES})
      UNION SELECT sha256 FROM look_carries WHERE look_id IN (${LOOKS}))`,
  },
  { name: 'series', key: ['id'], later: ['cover_id'], ofSeries: 'id = $1' },
  { name: 'photographs', key: ['id'], later: ['current_take_id'], ofSeries: `id IN (${PHOTOGRAPHS})` },
  { name: 'takes', key: ['id'], ofSeries: `id IN (${TAKES})` },
  { name: 'take_states', key: ['take_id', 'number'], ofSeries: `take_id IN (${TAKES})` },
  { name: 'take_carries', key: ['take_id', 'sha256'], ofSeries: `take_id IN (${TAKES})` },
  { name: 'looks', key: ['id'], mayBeThere: true, ofSeries: `id IN (${LOOKS})` },
  {
    name: 'look_carries',
    key: ['look_id', 'sha256'],
    mayBeThere: true,
    ofSeries: `look_id IN (${LOOKS})`,
  },
  { name: 'colour_tables', key: ['id'], mayBeThere: true },
  { name: 'pigments', key: ['id'], mayBeThere: true },
  { name: 'send_out_settings', key: ['id'], mayBeThere: true },
  { name: 'credits', key: ['one'], mayBeThere: true },
  // What is under way is nothing to keep: its end is not known yet.
  { name: 'send_outs', key: ['id'], where: `state IN ('done', 'failed', 'stopped')` },
  { name: 'batches', key: ['id'], where: `state <> 'running'` },
  {
    name: 'batch_items',
    key: ['batch_id', 'place'],
    where: `batch_id IN (SELECT id FROM batches WHERE state <> 'running')`,
  },
];

/** Tables that no archive holds, and why. */
export const leftOut: Readonly<Record<string, string>> = {
  blobs: 'their bytes stand in the archive under their hashes',
  blob_chunks: 'their bytes stand in the archive under their hashes',
  migrations: 'the archive says itself which version wrote it',
  passphrase_salt: 'who may come in is a matter of the server, not of the shelf',
  sign_ins: 'who may come in is a matter of the server, not of the shelf',
  tokens: 'who may come in is a matter of the server, not of the shelf',
};

/** Columns that refer to bytes, by table: what of the bytes an archive holds. */
export const bytesOf: Readonly<Record<string, string>> = {
  photographs: 'sha256',
  carried: 'sha256',
  send_outs: 'result_sha256',
};
