/** What the Sheet orders, names and lays out by: when a photograph was taken, its caption, the frame of each treatment. */
export const up = [
  `ALTER TABLE photographs
     ADD taken text,
     ADD taken_read boolean NOT NULL DEFAULT false,
     ADD caption text NOT NULL DEFAULT '' CHECK (char_length(caption) <= 2000)`,
  `ALTER TABLE take_states ADD frame jsonb`,
];

export const down = [
  `ALTER TABLE take_states DROP frame`,
  `ALTER TABLE photographs DROP taken, DROP taken_read, DROP caption`,
];
