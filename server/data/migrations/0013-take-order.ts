/** The place of a take among those of its photograph: those that were never ordered come last, by their letters. */
export const up = [`ALTER TABLE takes ADD place integer NOT NULL DEFAULT 1000000`];

export const down = [`ALTER TABLE takes DROP place`];
