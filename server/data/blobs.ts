import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { setImmediate } from 'node:timers/promises';
import { Readable } from 'node:stream';
import type { Client } from 'pg';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/** Bytes hashed without a pause: few enough that nobody waits for it. */
const AT_ONCE = 4 * 1024 * 1024;

/** The SHA-256 of bytes, in hexadecimal; others are answered meanwhile. */
export async function sha256Of(bytes: Uint8Array): Promise<string> {
  const hash = createHash('sha256');
  for (let at = 0; at < bytes.length; at += AT_ONCE) {
    hash.update(bytes.subarray(at, at + AT_ONCE));
    await setImmediate();
  }
  return hash.digest('hex');
}

/** Bytes of a chunk row. */
const CHUNK = 1024 * 1024;

/** The driver's own connection beneath a transaction: it sends bytes as bytes, not as hex in the SQL. */
const clientOf = (transaction: Transaction) =>
  // eslint-disable-next-line no-restricted-syntax -- Sequelize does not tell of it
  (transaction as unknown as { connection: Client }).connection;

async function* inChunks(bytes: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let held: Buffer[] = [];
  let size = 0;
  for await (const piece of bytes) {
    held.push(piece);
    size += piece.length;
    if (size < CHUNK) continue;
    let whole = Buffer.concat(held);
    for (; whole.length >= CHUNK; whole = whole.subarray(CHUNK)) yield whole.subarray(0, CHUNK);
    held = whole.length ? [whole] : [];
    size = whole.length;
  }
  if (size) yield Buffer.concat(held);
}

/**
 * Writes bytes under their SHA-256 as chunk rows, within the caller's transaction. Bytes that are already
 * there are not written again.
 */
export async function storeBlob(
  transaction: Transaction,
  sha256: string,
  size: number,
  bytes: AsyncIterable<Buffer>,
): Promise<void> {
  const client = clientOf(transaction);
  // One that is there is touched, which holds it against being swept until this transaction refers to it.
  const { rows } = await client.query<{ made: boolean }>(
    `INSERT INTO blobs (sha256, size) VALUES ($1, $2)
     ON CONFLICT (sha256) DO UPDATE SET created_at = now() RETURNING (xmax = 0) AS made`,
    [sha256, size],
  );
  if (!rows[0].made) return;
  let part = 0;
  for await (const chunk of inChunks(bytes)) {
    await client.query('INSERT INTO blob_chunks (sha256, part, bytes) VALUES ($1, $2, $3)', [
      sha256,
      part++,
      chunk,
    ]);
  }
}

/** Writes a file's bytes; see `storeBlob`. */
export function storeBlobFile(transaction: Transaction, sha256: string, size: number, path: string) {
  return storeBlob(transaction, sha256, size, createReadStream(path, { highWaterMark: CHUNK }));
}

/** How many bytes a blob has. Throws an Error where there is no such blob. */
export async function sizeOfBlob(sequelize: Sequelize, sha256: string): Promise<number> {
  const [row] = await sequelize.query<{ size: string }>('SELECT size FROM blobs WHERE sha256 = $1', {
    bind: [sha256],
    type: QueryTypes.SELECT,
  });
  if (!row) throw new Error(`there is no blob ${sha256}`);
  return Number(row.size);
}

/** The bytes of a blob from one on, a chunk at a time. */
export function readBlob(sequelize: Sequelize, sha256: string, from = 0): Readable {
  async function* chunks() {
    const first = Math.floor(from / CHUNK);
    for (let part = first; ; part++) {
      const [row] = await sequelize.query<{ bytes: Buffer }>(
        'SELECT bytes FROM blob_chunks WHERE sha256 = $1 AND part = $2',
        { bind: [sha256, part], type: QueryTypes.SELECT },
      );
      if (!row) return;
      yield part === first ? row.bytes.subarray(from % CHUNK) : row.bytes;
    }
  }
  return Readable.from(chunks(), { objectMode: false });
}
