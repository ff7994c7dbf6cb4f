/** What was cleared is gone; what refers to a blob is found fast; originals may be damaged, or only a part of their file. */
export const up = [
  `DELETE FROM send_outs WHERE cleared_at IS NOT NULL`,
  `ALTER TABLE send_outs DROP COLUMN cleared_at`,
  `CREATE INDEX send_outs_of_blob ON send_outs (result_sha256)`,
  `CREATE INDEX send_outs_of_take ON send_outs (take_id)`,
  `CREATE INDEX photographs_of_blob ON photographs (sha256)`,
  `ALTER TABLE photographs ADD COLUMN damage text, ADD COLUMN part text`,
];

export const down = [
  `ALTER TABLE photographs DROP COLUMN damage, DROP COLUMN part`,
  `DROP INDEX photographs_of_blob`,
  `DROP INDEX send_outs_of_take`,
  `DROP INDEX send_outs_of_blob`,
  `ALTER TABLE send_outs ADD COLUMN cleared_at timestamptz`,
];
