/** Looks: treatments kept under a name, and what they carry. */
export const up = [
  `CREATE TABLE looks (
     id uuid PRIMARY KEY,
     name text NOT NULL CHECK (char_length(name) BETWEEN 1 AND 80),
     "group" text NOT NULL CHECK (char_length("group") BETWEEN 1 AND 60),
     treatment jsonb NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   )`,
  `CREATE TABLE look_carries (
     look_id uuid NOT NULL REFERENCES looks ON DELETE CASCADE,
     sha256 char(64) NOT NULL REFERENCES carried,
     PRIMARY KEY (look_id, sha256)
   )`,
  `CREATE INDEX look_carries_of ON look_carries (sha256)`,
];

export const down = [`DROP TABLE look_carries`, `DROP TABLE looks`];
