/** A finished file can say something of itself. */
export const up = [`ALTER TABLE send_outs ADD COLUMN note text`];

export const down = [`ALTER TABLE send_outs DROP COLUMN note`];
