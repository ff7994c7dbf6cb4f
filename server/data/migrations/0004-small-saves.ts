import { createHash } from 'node:crypto';
import fastJsonPatch, { type Operation } from 'fast-json-patch';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/**
 * A state of a take's history holds what changed, and now and then the whole treatment; colour tables and pictures of
 * areas become blobs that treatments refer to by hash.
 */

type Json = Record<string, unknown>;
interface Part {
  kind: string;
  png?: unknown;
}
interface Whole extends Json {
  steps: { kind: string; enabled: boolean }[];
  masks?: { parts: Part[] }[];
  tables?: Record<string, unknown>;
}
interface State {
  number: number;
  parent: number | null;
  treatment: Whole;
}

const before = [
  `CREATE TABLE carried (
     sha256 char(64) PRIMARY KEY REFERENCES blobs,
     kind text NOT NULL CHECK (kind IN ('table', 'picture')),
     created_at timestamptz NOT NULL DEFAULT now(),
     touched_at timestamptz NOT NULL DEFAULT now()
   )`,
  `CREATE TABLE take_carries (
     take_id uuid NOT NULL REFERENCES takes ON DELETE CASCADE,
     sha256 char(64) NOT NULL REFERENCES carried,
     PRIMARY KEY (take_id, sha256)
   )`,
  `CREATE INDEX take_carries_of ON take_carries (sha256)`,
  `ALTER TABLE takes ADD COLUMN last_command uuid`,
  `ALTER TABLE take_states
     ALTER COLUMN treatment DROP NOT NULL,
     ADD COLUMN patch jsonb,
     ADD COLUMN kinds jsonb NOT NULL DEFAULT '[]',
     ADD COLUMN steps integer NOT NULL DEFAULT 0,
     ADD COLUMN patches_since integer NOT NULL DEFAULT 0,
     ADD COLUMN bytes_since integer NOT NULL DEFAULT 0`,
  `ALTER TABLE colour_tables ADD COLUMN sha256 char(64) REFERENCES carried`,
];

const after = [
  `ALTER TABLE take_states
     ADD CHECK ((patch IS NULL) <> (treatment IS NULL)),
     ADD CHECK (parent IS NOT NULL OR treatment IS NOT NULL),
     ALTER COLUMN kinds DROP DEFAULT,
     ALTER COLUMN steps DROP DEFAULT`,
  `ALTER TABLE colour_tables ALTER COLUMN sha256 SET NOT NULL, DROP COLUMN cube`,
];

const CHUNK = 1024 * 1024;

/** Keeps bytes as a blob that can be carried; the reference to them. */
async function keep(
  sequelize: Sequelize,
  transaction: Transaction,
  kind: 'table' | 'picture',
  bytes: Buffer,
): Promise<{ sha256: string }> {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const run = (sql: string, bind: unknown[]) => sequelize.query(sql, { bind, transaction });
  const made = await sequelize.query(
    'INSERT INTO blobs (sha256, size) VALUES ($1, $2) ON CONFLICT DO NOTHING RETURNING sha256',
    { bind: [sha256, bytes.length], transaction, type: QueryTypes.SELECT },
  );
  for (let part = 0; made.length && part * CHUNK < bytes.length; part++) {
    const chunk = bytes.subarray(part * CHUNK, (part + 1) * CHUNK);
    await run('INSERT INTO blob_chunks (sha256, part, bytes) VALUES ($1, $2, $3)', [sha256, part, chunk]);
  }
  await run('INSERT INTO carried (sha256, kind) VALUES ($1, $2) ON CONFLICT DO NOTHING', [sha256, kind]);
  return { sha256 };
}

/** A treatment with references in place of what it carries. */
async function lightened(
  whole: Whole,
  carry: (kind: 'table' | 'picture', bytes: Buffer) => Promise<{ sha256: string }>,
): Promise<Whole> {
  const light = structuredClone(whole);
  for (const [id, text] of Object.entries(light.tables ?? {})) {
    if (typeof text === 'string') light.tables![id] = await carry('table', Buffer.from(text, 'utf8'));
  }
  for (const { parts } of light.masks ?? []) {
    for (const part of parts) {
      if (part.kind === 'picture' && typeof part.png === 'string') {
        part.png = await carry('picture', Buffer.from(part.png, 'base64'));
      }
    }
  }
  return light;
}

const MOST_PATCHES = 1000;

export async function up(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  const run = (sql: string, bind: unknown[] = []) => sequelize.query(sql, { bind, transaction });
  const select = <T extends object>(sql: string, bind: unknown[] = []) =>
    sequelize.query<T>(sql, { bind, transaction, type: QueryTypes.SELECT });
  for (const statement of before) await run(statement);

  const tables = await select<{ id: string; cube: string }>('SELECT id, cube FROM colour_tables');
  for (const { id, cube } of tables) {
    const { sha256 } = await keep(sequelize, transaction, 'table', Buffer.from(cube, 'utf8'));
    await run('UPDATE colour_tables SET sha256 = $2 WHERE id = $1', [id, sha256]);
  }
  for (const { id } of await select<{ id: string }>('SELECT id FROM takes')) {
    const carries = new Set<string>();
    const carry = async (kind: 'table' | 'picture', bytes: Buffer) => {
      const reference = await keep(sequelize, transaction, kind, bytes);
      carries.add(reference.sha256);
      return reference;
    };
    const numbers = await select<{ number: number }>(
      'SELECT number FROM take_states WHERE take_id = $1 ORDER BY number',
      [id],
    );
    const made = new Map<number, { treatment: Whole; patches: number; bytes: number }>();
    // One at a time: a history may be large.
    for (const { number } of numbers) {
      const [state] = await select<State>(
        'SELECT number, parent, treatment FROM take_states WHERE take_id = $1 AND number = $2',
        [id, number],
      );
      const treatment = await lightened(state.treatment, carry);
      const parent = state.parent === null ? null : made.get(state.parent)!;
      const patch: Operation[] | null = parent && fastJsonPatch.compare(parent.treatment, treatment);
      const bytes = parent ? parent.bytes + JSON.stringify(patch).length : 0;
      const patches = parent ? parent.patches + 1 : 0;
      const isWhole = !parent || patches >= MOST_PATCHES || bytes >= JSON.stringify(treatment).length;
      made.set(number, { treatment, patches: isWhole ? 0 : patches, bytes: isWhole ? 0 : bytes });
      await run(
        `UPDATE take_states SET treatment = $3, patch = $4, kinds = $5, steps = $6, patches_since = $7, bytes_since = $8
          WHERE take_id = $1 AND number = $2`,
        [
          id,
          number,
          isWhole ? JSON.stringify(treatment) : null,
          isWhole ? null : JSON.stringify(patch),
          JSON.stringify(treatment.steps.filter(s => s.enabled).map(s => s.kind)),
          treatment.steps.length,
          isWhole ? 0 : patches,
          isWhole ? 0 : bytes,
        ],
      );
    }
    for (const { id: sendOut, treatment } of await select<{ id: string; treatment: Whole }>(
      'SELECT id, treatment FROM send_outs WHERE take_id = $1',
      [id],
    )) {
      const light = await lightened(treatment, carry);
      await run('UPDATE send_outs SET treatment = $2 WHERE id = $1', [sendOut, JSON.stringify(light)]);
    }
    for (const sha256 of carries) {
      await run('INSERT INTO take_carries (take_id, sha256) VALUES ($1, $2)', [id, sha256]);
    }
  }
  for (const statement of after) await run(statement);
}

export async function down(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  const run = (sql: string, bind: unknown[] = []) => sequelize.query(sql, { bind, transaction });
  const select = <T extends object>(sql: string, bind: unknown[] = []) =>
    sequelize.query<T>(sql, { bind, transaction, type: QueryTypes.SELECT });
  const bytesOf = async (sha256: string): Promise<Buffer> => {
    const chunks = await select<{ bytes: Buffer }>(
      'SELECT bytes FROM blob_chunks WHERE sha256 = $1 ORDER BY part',
      [sha256],
    );
    return Buffer.concat(chunks.map(c => c.bytes));
  };
  const inFull = async (light: Whole): Promise<Whole> => {
    const whole = structuredClone(light);
    for (const [id, reference] of Object.entries(whole.tables ?? {})) {
      const { sha256 } = reference as { sha256: string };
      whole.tables![id] = (await bytesOf(sha256)).toString('utf8');
    }
    for (const { parts } of whole.masks ?? []) {
      for (const part of parts) {
        if (part.kind !== 'picture') continue;
        part.png = (await bytesOf((part.png as { sha256: string }).sha256)).toString('base64');
      }
    }
    return whole;
  };
  await run(`ALTER TABLE colour_tables ADD COLUMN cube text`);
  for (const { id, sha256 } of await select<{ id: string; sha256: string }>(
    'SELECT id, sha256 FROM colour_tables',
  )) {
    await run('UPDATE colour_tables SET cube = $2 WHERE id = $1', [
      id,
      (await bytesOf(sha256)).toString('utf8'),
    ]);
  }
  await run(`ALTER TABLE colour_tables ALTER COLUMN cube SET NOT NULL, DROP COLUMN sha256`);
  for (const constraint of await select<{ name: string }>(
    `SELECT conname AS name FROM pg_constraint
      WHERE conrelid = 'take_states'::regclass AND contype = 'c' AND pg_get_constraintdef(oid) LIKE '%treatment%'`,
  )) {
    await run(`ALTER TABLE take_states DROP CONSTRAINT ${constraint.name}`);
  }
  for (const { id } of await select<{ id: string }>('SELECT id FROM takes')) {
    const light = new Map<number, Whole>();
    for (const state of await select<State & { patch: Operation[] | null }>(
      'SELECT number, parent, treatment, patch FROM take_states WHERE take_id = $1 ORDER BY number',
      [id],
    )) {
      const whole = state.patch
        ? fastJsonPatch.applyPatch(structuredClone(light.get(state.parent!)!), state.patch).newDocument
        : state.treatment;
      light.set(state.number, whole);
      await run('UPDATE take_states SET treatment = $3 WHERE take_id = $1 AND number = $2', [
        id,
        state.number,
        JSON.stringify(await inFull(whole)),
      ]);
    }
  }
  for (const { id, treatment } of await select<{ id: string; treatment: Whole }>(
    'SELECT id, treatment FROM send_outs',
  )) {
    await run('UPDATE send_outs SET treatment = $2 WHERE id = $1', [
      id,
      JSON.stringify(await inFull(treatment)),
    ]);
  }
  await run(`ALTER TABLE take_states
     ALTER COLUMN treatment SET NOT NULL,
     DROP COLUMN patch,
     DROP COLUMN kinds,
     DROP COLUMN steps,
     DROP COLUMN patches_since,
     DROP COLUMN bytes_since`);
  await run(`ALTER TABLE takes DROP COLUMN last_command`);
  await run(`DROP TABLE take_carries`);
  await run(`CREATE TEMPORARY TABLE gone ON COMMIT DROP AS SELECT sha256 FROM carried`);
  await run(`DROP TABLE carried`);
  await run(`DELETE FROM blobs b USING gone WHERE b.sha256 = gone.sha256
     AND NOT EXISTS (SELECT 1 FROM photographs p WHERE p.sha256 = b.sha256)
     AND NOT EXISTS (SELECT 1 FROM send_outs s WHERE s.result_sha256 = b.sha256)`);
}
