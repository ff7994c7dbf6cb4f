/**
 * A photograph may be one page of its file, and tells its camera and its author, which is read again from those that are there.
 */
export const up = [
  `ALTER TABLE photographs ADD COLUMN page integer NOT NULL DEFAULT 0, ADD COLUMN camera text, ADD COLUMN author text`,
  `UPDATE photographs SET taken_read = false`,
];

export const down = [`ALTER TABLE photographs DROP COLUMN page, DROP COLUMN camera, DROP COLUMN author`];
