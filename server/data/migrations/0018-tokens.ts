/** Tokens for programs, where a passphrase is set: their hashes, their names, and under which passphrase they were given. */
export const up = [
  `CREATE TABLE tokens (
     id uuid PRIMARY KEY,
     name text NOT NULL CHECK (char_length(name) BETWEEN 1 AND 60),
     token_hash char(64) NOT NULL UNIQUE,
     passphrase char(64) NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(),
     used_at timestamptz
   )`,
];

export const down = [`DROP TABLE tokens`];
