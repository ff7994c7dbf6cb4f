/** Who has signed in, where a passphrase is set: what the cookie holds, hashed, and under which passphrase. */
export const up = [
  `CREATE TABLE passphrase_salt (
     salt bytea NOT NULL,
     alone boolean PRIMARY KEY DEFAULT true CHECK (alone)
   )`,
  `CREATE TABLE sign_ins (
     token_hash char(64) PRIMARY KEY,
     passphrase char(64) NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now()
   )`,
];

export const down = [`DROP TABLE sign_ins`, `DROP TABLE passphrase_salt`];
