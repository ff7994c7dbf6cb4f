/** Who has signed in is listed, with their last use and by what, and can be ended; what is not used for long ends by itself. */
export const up = [
  `ALTER TABLE sign_ins
     ADD COLUMN id uuid NOT NULL UNIQUE DEFAULT gen_random_uuid(),
     ADD COLUMN used_at timestamptz NOT NULL DEFAULT now(),
     ADD COLUMN browser text NOT NULL DEFAULT ''`,
];

export const down = [`ALTER TABLE sign_ins DROP COLUMN id, DROP COLUMN used_at, DROP COLUMN browser`];
