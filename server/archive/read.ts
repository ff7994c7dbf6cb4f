import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Client } from 'pg';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { extract } from 'tar-stream';
import { MOST_TREATMENT } from '../../contract/limits';
import { storeBlobFile } from '../data/blobs';
import { executedMigrations } from '../data/migrate';
import {
  ArchiveError,
  BLOBS,
  HEAD,
  headSchema,
  PIECE,
  sha256 as sha256Schema,
  SUMS,
  sumsSchema,
  tableOf,
  type Head,
} from './format';
import { archivedTables, type ArchivedTable } from './tables';

/**
 * Taking an archive in: all of it or nothing. First it comes, and all of it is read and checked, without a hand on the
 * database; then its bytes are kept, each by itself; then its rows are written at once. So nobody else waits for it.
 */

/** What has been taken in. */
export interface TakenIn {
  of: Head['of'];
  series: { id: string; title: string }[];
  rows: number;
  blobs: number;
}

/** Bytes of a piece of rows, or of the head: a row may hold a large treatment. */
const MOST_PIECE = 2 * PIECE + 2 * MOST_TREATMENT;

const WAY_OUT = 'Copy it again from where it came from, or use an older one.';

/** An entry's bytes, whole. */
async function whole(stream: AsyncIterable<Buffer>, size: number, name: string): Promise<Buffer> {
  if (size > MOST_PIECE) throw new ArchiveError(`“${name.slice(0, 80)}” in the archive is too long.`);
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part);
  return Buffer.concat(parts);
}

function json<T>(bytes: Buffer, read: (value: unknown) => T, what: string): T {
  try {
    return read(JSON.parse(bytes.toString()));
  } catch {
    throw new ArchiveError(`${what} ${WAY_OUT}`);
  }
}

const clientOf = (transaction: Transaction) =>
  // eslint-disable-next-line no-restricted-syntax -- Sequelize does not tell of it
  (transaction as unknown as { connection: Client }).connection;

/** What is done with the bytes and the rows of an archive, by whom it is for. */
export interface Taking {
  /** Throws an ArchiveError where this archive is not to be taken in: asked when it comes, and again when it is written. */
  begin: (head: Head, transaction?: Transaction) => Promise<void>;
  /** Rows as they are to be written, of a piece that stands in the archive. */
  rows: (table: ArchivedTable, text: string) => Promise<string[]>;
  /** Where all that comes is kept as files until it is written. */
  folder: string;
  /** When all has come: throws an ArchiveError where it does not belong together. */
  whole: () => Promise<void>;
  /** Called last, within the transaction. */
  end: (head: Head, transaction: Transaction) => Promise<void>;
}

/** Rows of a table that have been read, in a file, a line each. */
interface Piece {
  table: ArchivedTable;
  path: string;
}

/** What has come of an archive. */
class Coming {
  head: Head | null = null;
  rows = 0;
  readonly blobs = new Map<string, number>();
  readonly pieces: Piece[] = [];
  private readonly found: Record<string, string> = {};
  private sums: Record<string, string> | null = null;

  constructor(
    private readonly sequelize: Sequelize,
    private readonly taking: Taking,
    private readonly goOn: () => void,
  ) {}

  async entry(
    { name, size = 0, type }: { name: string; size?: number; type?: string | null },
    stream: Readable,
  ): Promise<void> {
    if (this.sums) throw new ArchiveError(`There is more in the archive behind its end. ${WAY_OUT}`);
    if (type !== 'file') {
      throw new ArchiveError(
        `“${name.slice(0, 80)}” in the archive is no file (${type ?? 'of no known kind'}).`,
      );
    }
    if (name === HEAD) return this.begin(await whole(stream, size, name));
    if (!this.head) throw new ArchiveError('This is no archive of Lamp Wash: it does not begin as one.');
    if (name === SUMS) {
      const bytes = await whole(stream, size, name);
      this.sums = json(bytes, v => sumsSchema.parse(v), 'The sums at the end of the archive are broken.');
      return;
    }
    const sha256 = name.startsWith(BLOBS) ? name.slice(BLOBS.length) : null;
    if (sha256 !== null) return this.blob(sha256, size, stream);
    const table = archivedTables.find(t => t.name === tableOf(name));
    if (!table)
      throw new ArchiveError(
        `“${name.slice(0, 80)}” in the archive is not known here. A newer version may have written it: use that.`,
      );
    return this.piece(table, name, await whole(stream, size, name));
  }

  private async begin(bytes: Buffer): Promise<void> {
    if (this.head) throw new ArchiveError(`The archive begins twice. ${WAY_OUT}`);
    const value = json(bytes, v => v as { version?: unknown }, 'The head of the archive is broken.');
    const read = headSchema.safeParse(value);
    if (!read.success) {
      const isNewer = typeof value?.version === 'number' && value.version > 1;
      throw new ArchiveError(
        isNewer
          ? 'The archive was written by a newer version of Lamp Wash: use that.'
          : 'This is no archive of Lamp Wash: its head does not say so.',
      );
    }
    const known = new Set(await executedMigrations(this.sequelize));
    const unknown = read.data.migrations.filter(m => !known.has(m));
    if (unknown.length) {
      throw new ArchiveError(
        `The archive was written by a newer version of Lamp Wash (which knows ${unknown.join(', ')}): use that.`,
      );
    }
    await this.taking.begin(read.data);
    this.head = read.data;
  }

  private async blob(name: string, size: number, stream: Readable): Promise<void> {
    if (!sha256Schema.safeParse(name).success || this.blobs.has(name))
      throw new ArchiveError(`The archive names bytes wrongly. ${WAY_OUT}`);
    const hash = createHash('sha256');
    const measured = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        hash.update(chunk);
        done(null, chunk);
      },
    });
    await pipeline(stream, measured, createWriteStream(join(this.taking.folder, name)));
    if (hash.digest('hex') !== name) {
      throw new ArchiveError(`The archive is damaged: bytes in it are not what their name says. ${WAY_OUT}`);
    }
    this.blobs.set(name, size);
  }

  private async piece(table: ArchivedTable, name: string, bytes: Buffer): Promise<void> {
    if (name in this.found) throw new ArchiveError(`“${name}” is in the archive twice. ${WAY_OUT}`);
    this.found[name] = createHash('sha256').update(bytes).digest('hex');
    this.goOn();
    const rows = await this.taking.rows(table, bytes.toString());
    if (!rows.length) return;
    this.rows += rows.length;
    const path = join(this.taking.folder, `rows-${this.pieces.length}`);
    await writeFile(path, rows.join('\n'));
    this.pieces.push({ table, path });
  }

  async end(): Promise<Head> {
    const { head, sums } = this;
    if (!head) throw new ArchiveError('This is no archive of Lamp Wash: there is nothing in it.');
    if (!sums) throw new ArchiveError(`The archive is not whole: it ends too early. ${WAY_OUT}`);
    const names = new Set([...Object.keys(sums), ...Object.keys(this.found)]);
    for (const name of names) {
      if (sums[name] !== this.found[name])
        throw new ArchiveError(`The archive is damaged in “${name.slice(0, 80)}”. ${WAY_OUT}`);
    }
    if (this.blobs.size !== head.blobs)
      throw new ArchiveError(`The archive is not whole: bytes are missing in it. ${WAY_OUT}`);
    await this.taking.whole();
    return head;
  }
}

/** Lets an archive come and be read. Throws an ArchiveError where it is none, or not valid. */
async function receive(bytes: Readable, coming: Coming): Promise<void> {
  const tar = extract();
  const parting = pipeline(bytes, tar);
  parting.catch(() => undefined);
  try {
    for await (const entry of tar) {
      // eslint-disable-next-line no-restricted-syntax -- it is a readable stream of the package's own kind
      await coming.entry(entry.header, entry as unknown as Readable);
      entry.resume();
    }
    await parting;
  } catch (error) {
    if (error instanceof ArchiveError) throw error;
    if (/tar|Unexpected end|Invalid|Header exceeds/i.test((error as Error).message)) {
      throw new ArchiveError(
        coming.head
          ? `The archive is not whole: it ends too early. ${WAY_OUT}`
          : 'This is no archive of Lamp Wash.',
      );
    }
    throw error;
  }
}

/** Writes rows that have been read. */
class Writing {
  private readonly columns = new Map<string, ReadonlySet<string>>();
  constructor(
    private readonly sequelize: Sequelize,
    private readonly transaction: Transaction,
    private readonly goOn: () => void,
  ) {}

  /** The columns that a table has here. */
  private async columnsOf(table: string): Promise<ReadonlySet<string>> {
    let known = this.columns.get(table);
    if (!known) {
      const rows = await this.sequelize.query<{ name: string }>(
        `SELECT column_name AS name FROM information_schema.columns
          WHERE table_schema = current_schema() AND table_name = $1`,
        { bind: [table], type: QueryTypes.SELECT, transaction: this.transaction },
      );
      known = new Set(rows.map(r => r.name));
      this.columns.set(table, known);
    }
    return known;
  }

  async insert({ table, path }: Piece): Promise<void> {
    const rows = (await readFile(path, 'utf8')).split('\n');
    const here = await this.columnsOf(table.name);
    // A column that this version does not have any more is left; one that the archive does not have is as it is by itself.
    const columns = Object.keys(JSON.parse(rows[0]) as object)
      .filter(c => here.has(c) && !table.later?.includes(c))
      .map(c => `"${c}"`);
    await this.run(
      `INSERT INTO ${table.name} (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM json_populate_recordset(NULL::${table.name}, $1::json)
       ${table.mayBeThere ? 'ON CONFLICT DO NOTHING' : ''}`,
      rows,
      table,
    );
  }

  /** What refers to rows that have come since. */
  async refer({ table, path }: Piece): Promise<void> {
    if (!table.later) return;
    const rows = (await readFile(path, 'utf8')).split('\n');
    for (const column of table.later) {
      await this.run(
        `UPDATE ${table.name} t SET ${column} = r.${column}
           FROM json_populate_recordset(NULL::${table.name}, $1::json) r
          WHERE r.id = t.id AND r.${column} IS NOT NULL`,
        rows,
        table,
      );
    }
  }

  /** In slices, so that no statement is too long for the database. */
  private async run(sql: string, rows: readonly string[], { name }: ArchivedTable): Promise<void> {
    const client = clientOf(this.transaction);
    for (let at = 0; at < rows.length;) {
      this.goOn();
      let to = at;
      for (let length = 0; to < rows.length && length < PIECE; to++) length += rows[to].length;
      try {
        await client.query(sql, [`[${rows.slice(at, to).join(',')}]`]);
      } catch (error) {
        const { code, detail = '' } = error as { code?: string; detail?: string };
        if (code === '23505')
          throw new ArchiveError(
            `Something of the archive is on this shelf already (${name}). ${detail}`.trim(),
          );
        if (code?.startsWith('2'))
          throw new ArchiveError(`Rows of ${name} in the archive do not fit: ${(error as Error).message}.`);
        throw error;
      }
      at = to;
    }
  }
}

/**
 * Takes an archive in. Throws an ArchiveError where it is none, is damaged, not whole, of a newer version, or where `taking` does;
 * and what `signal` says, where that ends it. Then nothing has changed.
 */
export async function readArchive(
  sequelize: Sequelize,
  bytes: Readable,
  taking: Taking,
  signal?: AbortSignal,
): Promise<TakenIn> {
  const goOn = () => signal?.throwIfAborted();
  await mkdir(taking.folder, { recursive: true });
  try {
    const coming = new Coming(sequelize, taking, goOn);
    await receive(bytes, coming);
    const head = await coming.end();
    for (const [sha256, size] of coming.blobs) {
      goOn();
      await sequelize.transaction(transaction =>
        storeBlobFile(transaction, sha256, size, join(taking.folder, sha256)),
      );
    }
    await sequelize.transaction(async transaction => {
      await taking.begin(head, transaction);
      const writing = new Writing(sequelize, transaction, goOn);
      for (const piece of coming.pieces) await writing.insert(piece);
      for (const piece of coming.pieces) await writing.refer(piece);
      await taking.end(head, transaction);
      goOn();
    });
    return { of: head.of, series: head.series, rows: coming.rows, blobs: coming.blobs.size };
  } finally {
    await rm(taking.folder, { recursive: true, force: true });
  }
}
