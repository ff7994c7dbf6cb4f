/** The series of the demo are known as such: they can be taken off together. */
export const up = [`ALTER TABLE series ADD COLUMN demo boolean NOT NULL DEFAULT false`];

export const down = [`ALTER TABLE series DROP COLUMN demo`];
