import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { hold, isAtHand, type CarriedKind } from '../../core/formats/carried';
import { carriedBy, type Carried } from '../../core/treatment/carried-by';
import { TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { readBlob, storeBlob } from './blobs';

/**
 * What treatments carry and refer to by hash: colour tables and pictures of areas, each kept once as a blob. A take
 * refers to all that any state of its history carries, since undo may bring it back.
 */

/** Keeps bytes under their hash; those that are there already are only touched. */
export async function keepCarried(
  sequelize: Sequelize,
  kind: CarriedKind,
  sha256: string,
  bytes: Buffer,
): Promise<void> {
  async function* once() {
    yield bytes;
  }
  await sequelize.transaction(async transaction => {
    await storeBlob(transaction, sha256, bytes.length, once());
    await sequelize.query(
      `INSERT INTO carried (sha256, kind) VALUES ($1, $2)
       ON CONFLICT (sha256) DO UPDATE SET touched_at = now()`,
      { bind: [sha256, kind], transaction },
    );
  });
}

/** Keeps all that stood in a treatment in full. */
export async function keepAllCarried(
  sequelize: Sequelize,
  carried: readonly { kind: CarriedKind; sha256: string; bytes: Uint8Array }[],
): Promise<void> {
  for (const { kind, sha256, bytes } of carried) {
    await keepCarried(sequelize, kind, sha256, Buffer.from(bytes));
  }
}

/** What refers to something that is carried. */
type Owner = { take: string } | { look: string };

/** Notes that a take or a look refers to something. Throws a TreatmentError that names what is not kept here. */
export async function referToCarried(
  sequelize: Sequelize,
  owner: Owner,
  carried: readonly Carried[],
  transaction: Transaction,
): Promise<void> {
  if (!carried.length) return;
  const rows = await sequelize.query<{ sha256: string; kind: string }>(
    `SELECT sha256, kind FROM carried WHERE sha256 = ANY($1) FOR SHARE`,
    { bind: [carried.map(c => c.reference.sha256)], type: QueryTypes.SELECT, transaction },
  );
  const kept = new Map(rows.map(row => [row.sha256, row.kind]));
  for (const { kind, path, reference } of carried) {
    if (kept.get(reference.sha256) !== kind) {
      throw new TreatmentError(path, `no ${kind} is kept under this hash: send it to /api/carried first`);
    }
  }
  const [into, id] =
    'take' in owner
      ? ['take_carries (take_id, sha256)', owner.take]
      : ['look_carries (look_id, sha256)', owner.look];
  await sequelize.query(`INSERT INTO ${into} SELECT $1, unnest($2::text[]) ON CONFLICT DO NOTHING`, {
    bind: [id, [...kept.keys()]],
    transaction,
  });
}

/** The bytes of something carried; null where it is not kept. */
export async function carriedBytes(sequelize: Sequelize, sha256: string): Promise<Buffer | null> {
  const [row] = await sequelize.query('SELECT 1 FROM carried WHERE sha256 = $1', {
    bind: [sha256],
    type: QueryTypes.SELECT,
  });
  if (!row) return null;
  const chunks: Buffer[] = [];
  for await (const chunk of readBlob(sequelize, sha256)) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

/** Has all that a treatment carries at hand, to compute with it. */
export async function atHand(sequelize: Sequelize, treatment: Treatment): Promise<void> {
  for (const { reference, path } of carriedBy(treatment)) {
    if (isAtHand(reference.sha256)) continue;
    const bytes = await carriedBytes(sequelize, reference.sha256);
    if (!bytes) throw new TreatmentError(path, 'is not kept any more');
    hold(reference.sha256, bytes);
  }
}
