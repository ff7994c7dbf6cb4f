/** How a kept pigment is laid: -1 body colour, 0 a tint, 1 a transparent dye. */
export const up = [
  `ALTER TABLE pigments ADD COLUMN depth double precision NOT NULL DEFAULT 0 CHECK (depth BETWEEN -1 AND 1)`,
];

export const down = [`ALTER TABLE pigments DROP COLUMN depth`];
