/** Pigments that are kept for all photographs. */
export const up = [
  `CREATE TABLE pigments (
     id uuid PRIMARY KEY,
     name text NOT NULL CHECK (char_length(name) BETWEEN 1 AND 60),
     pigment jsonb NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   )`,
];

export const down = [`DROP TABLE pigments`];
