/** Colour tables that are kept for all photographs. Takes carry a copy of those that they use. */
export const up = [
  `CREATE TABLE colour_tables (
     id uuid PRIMARY KEY,
     name text NOT NULL CHECK (char_length(name) BETWEEN 1 AND 60),
     shelf text NOT NULL DEFAULT '' CHECK (char_length(shelf) <= 60),
     cube text NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   )`,
];

export const down = [`DROP TABLE colour_tables`];
