/** What goes out can be held; sizes are said in more ways than by a long edge; settings and whose pictures they are are kept. */
const states = (names: string) =>
  `ALTER TABLE send_outs ADD CONSTRAINT send_outs_state_check CHECK (state IN (${names}))`;

export const up = [
  `ALTER TABLE send_outs DROP CONSTRAINT send_outs_state_check`,
  states(`'waiting', 'paused', 'running', 'done', 'failed', 'stopped'`),
  `UPDATE send_outs SET settings = settings - 'longEdge' || jsonb_build_object('size',
     CASE WHEN coalesce(settings->'longEdge', 'null') = 'null' THEN jsonb_build_object('by', 'full')
     ELSE jsonb_build_object('by', 'long-edge', 'pixels', settings->'longEdge') END)
   WHERE NOT settings ? 'size'`,
  `CREATE TABLE send_out_settings (
     id uuid PRIMARY KEY,
     name text NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 60),
     settings jsonb NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now()
   )`,
  `CREATE TABLE credits (
     one boolean PRIMARY KEY DEFAULT true CHECK (one),
     author text NOT NULL DEFAULT '',
     rights text NOT NULL DEFAULT ''
   )`,
];

export const down = [
  `DROP TABLE credits`,
  `DROP TABLE send_out_settings`,
  `UPDATE send_outs SET state = 'stopped' WHERE state = 'paused'`,
  `UPDATE send_outs SET settings = settings - 'size' || jsonb_build_object('longEdge', settings#>'{size,pixels}')`,
  `ALTER TABLE send_outs DROP CONSTRAINT send_outs_state_check`,
  states(`'waiting', 'running', 'done', 'failed', 'stopped'`),
];
