/** Looks that a series shares, with the revision of each, and which looks the steps of a treatment follow. */
export const up = [
  `ALTER TABLE looks
     ADD series_id uuid REFERENCES series ON DELETE CASCADE,
     ADD revision integer NOT NULL DEFAULT 1,
     ADD since jsonb NOT NULL DEFAULT '{}'`,
  `CREATE INDEX looks_of_series ON looks (series_id)`,
  `ALTER TABLE take_states ADD looks jsonb NOT NULL DEFAULT '[]'`,
];

export const down = [
  `ALTER TABLE take_states DROP looks`,
  `ALTER TABLE looks DROP series_id, DROP revision, DROP since`,
];
