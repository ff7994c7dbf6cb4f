/** Changes of many photographs at once, one row for each photograph of them. */
export const up = [
  `CREATE TABLE batches (
     id uuid PRIMARY KEY,
     series_id uuid NOT NULL REFERENCES series ON DELETE CASCADE,
     label text NOT NULL CHECK (char_length(label) BETWEEN 1 AND 120),
     work jsonb NOT NULL,
     state text NOT NULL DEFAULT 'running' CHECK (state IN ('running', 'done', 'stopped', 'undone')),
     created_at timestamptz NOT NULL DEFAULT now()
   )`,
  `CREATE INDEX batches_of ON batches (series_id, created_at)`,
  `CREATE TABLE batch_items (
     batch_id uuid NOT NULL REFERENCES batches ON DELETE CASCADE,
     place integer NOT NULL,
     photograph_id uuid NOT NULL REFERENCES photographs ON DELETE CASCADE,
     state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'same', 'failed', 'undone')),
     problem text,
     command uuid NOT NULL,
     take_id uuid REFERENCES takes ON DELETE SET NULL,
     before_take uuid,
     after_state integer,
     PRIMARY KEY (batch_id, place)
   )`,
];

export const down = [`DROP TABLE batch_items`, `DROP TABLE batches`];
