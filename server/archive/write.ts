import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { QueryTypes, Transaction, type Sequelize } from 'sequelize';
import { pack, type Pack } from 'tar-stream';
import { executedMigrations } from '../data/migrate';
import { BLOBS, HEAD, PIECE, pieceName, SUMS, type Head } from './format';
import { archivedTables, bytesOf, type ArchivedTable } from './tables';

/** Writing an archive, a piece at a time, of the shelf as it is at one moment: whatever is done meanwhile. */

/** Rows that are fetched at once. */
const FETCH = 200;

/** What of a table is written, as SQL; null where nothing is. */
function conditionOf({ where, ofSeries }: ArchivedTable, seriesId: string | null): string | null {
  if (seriesId !== null) return ofSeries ?? null;
  return where ?? 'true';
}

/** One entry, whole in memory. */
const put = (tar: Pack, name: string, bytes: Buffer) =>
  new Promise<void>((resolve, reject) => {
    tar.entry({ name, size: bytes.length, mtime: new Date(0) }, bytes, error =>
      error ? reject(error) : resolve(),
    );
  });

class Writing {
  readonly sums: Record<string, string> = {};
  constructor(
    private readonly sequelize: Sequelize,
    private readonly transaction: Transaction,
    private readonly tar: Pack,
    private readonly seriesId: string | null,
  ) {}

  private select<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return this.sequelize.query<T>(sql, { bind, type: QueryTypes.SELECT, transaction: this.transaction });
  }
  private get bind(): unknown[] {
    return this.seriesId === null ? [] : [this.seriesId];
  }

  /** The hashes of all bytes that rows refer to, with their sizes, in order. */
  async blobs(): Promise<{ sha256: string; size: number }[]> {
    const parts = archivedTables.flatMap(table => {
      const column = bytesOf[table.name];
      const condition = conditionOf(table, this.seriesId);
      return column && condition ? [`SELECT ${column} AS sha256 FROM ${table.name} WHERE ${condition}`] : [];
    });
    const rows = await this.select<{ sha256: string; size: string }>(
      `SELECT sha256, size FROM blobs WHERE sha256 IN (${parts.join(' UNION ')}) ORDER BY sha256`,
      this.bind,
    );
    return rows.map(({ sha256, size }) => ({ sha256, size: Number(size) }));
  }

  async head(blobs: readonly { size: number }[]): Promise<void> {
    const condition = this.seriesId === null ? 'true' : 'id = $1';
    const series = await this.select<{ id: string; title: string }>(
      `SELECT id, title FROM series WHERE ${condition} ORDER BY id`,
      this.bind,
    );
    const head: Head = {
      format: 'lampwash-archive',
      version: 1,
      of: this.seriesId === null ? 'shelf' : 'series',
      made: new Date().toISOString(),
      migrations: await executedMigrations(this.sequelize),
      series,
      blobs: blobs.length,
      bytes: blobs.reduce((sum, { size }) => sum + size, 0),
    };
    await put(this.tar, HEAD, Buffer.from(JSON.stringify(head, null, 2)));
  }

  /** The bytes under a hash; a fault of the disk that changed them is noticed here, not when they are wanted. */
  async blob({ sha256, size }: { sha256: string; size: number }): Promise<void> {
    const hash = createHash('sha256');
    const select = (part: number) =>
      this.select<{ bytes: Buffer }>('SELECT bytes FROM blob_chunks WHERE sha256 = $1 AND part = $2', [
        sha256,
        part,
      ]);
    async function* chunks() {
      for (let part = 0; ; part++) {
        const [row] = await select(part);
        if (!row) break;
        hash.update(row.bytes);
        yield row.bytes;
      }
      if (hash.digest('hex') !== sha256) throw new Error(`the bytes kept under ${sha256} are damaged`);
    }
    const entry = this.tar.entry({ name: `${BLOBS}${sha256}`, size, mtime: new Date(0) });
    await pipeline(Readable.from(chunks(), { objectMode: false }), entry);
  }

  /** The rows of a table, in pieces. */
  async rows(table: ArchivedTable): Promise<void> {
    const condition = conditionOf(table, this.seriesId);
    if (condition === null) return;
    const { name, key } = table;
    // Bound values cannot stand in a cursor's declaration: the id of a series is a UUID, and quoted as one.
    const quoted = condition.replaceAll('$1', `'${this.seriesId}'::uuid`);
    await this.sequelize.query(
      `DECLARE archived NO SCROLL CURSOR FOR
         SELECT row_to_json(t)::text AS row FROM ${name} t WHERE ${quoted} ORDER BY ${key.join(', ')}`,
      { transaction: this.transaction },
    );
    let [lines, length, piece]: [string[], number, number] = [[], 0, 0];
    const flush = async () => {
      if (!lines.length) return;
      const bytes = Buffer.from(`${lines.join('\n')}\n`);
      const entry = pieceName(name, piece++);
      this.sums[entry] = createHash('sha256').update(bytes).digest('hex');
      await put(this.tar, entry, bytes);
      [lines, length] = [[], 0];
    };
    for (;;) {
      const fetched = await this.select<{ row: string }>(`FETCH ${FETCH} FROM archived`);
      for (const { row } of fetched) {
        lines.push(row);
        length += row.length;
        if (length >= PIECE) await flush();
      }
      if (fetched.length < FETCH) break;
    }
    await flush();
    await this.sequelize.query('CLOSE archived', { transaction: this.transaction });
  }

  sumsAtEnd(): Promise<void> {
    return put(this.tar, SUMS, Buffer.from(JSON.stringify(this.sums, null, 2)));
  }
}

/** What an archive will hold, before it is written. */
export interface ArchiveSize {
  blobs: number;
  bytes: number;
}

/**
 * An archive of the shelf, or of one series, as a stream. It is of one moment of the database, and is broken off where something in it
 * cannot be read: then it has no sums, and is not taken in.
 * @param onSize told when it is known how many bytes of originals there are
 */
export function archiveOf(
  sequelize: Sequelize,
  seriesId: string | null,
  onSize: (size: ArchiveSize) => void = () => undefined,
): Readable {
  const tar = pack();
  const { ISOLATION_LEVELS } = Transaction;
  const work = sequelize.transaction(
    { isolationLevel: ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async transaction => {
      const writing = new Writing(sequelize, transaction, tar, seriesId);
      const blobs = await writing.blobs();
      onSize({ blobs: blobs.length, bytes: blobs.reduce((sum, { size }) => sum + size, 0) });
      await writing.head(blobs);
      for (const blob of blobs) await writing.blob(blob);
      for (const table of archivedTables) await writing.rows(table);
      await writing.sumsAtEnd();
      tar.finalize();
    },
  );
  work.catch((error: Error) => tar.destroy(error));
  // eslint-disable-next-line no-restricted-syntax -- it is a readable stream of the package's own kind
  return tar as unknown as Readable;
}
