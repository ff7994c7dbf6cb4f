/** Each time that a send-out is begun is an attempt with a number, so that one that was given up changes nothing later. */
export const up = [`ALTER TABLE send_outs ADD COLUMN attempt integer NOT NULL DEFAULT 0`];

export const down = [`ALTER TABLE send_outs DROP COLUMN attempt`];
