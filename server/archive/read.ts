import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Client } from 'pg';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { extract } from 'tar-stream';
import { storeBlob } from '../data/blobs';
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

/** Taking an archive in: all of it or nothing, each piece checked by its hash. */

/** What has been taken in. */
export interface TakenIn {
  of: Head['of'];
  series: { id: string; title: string }[];
  rows: number;
  blobs: number;
}

/** A piece of rows, or the head, is no longer than this; a row may hold a large treatment. */
const MOST_PIECE = 256 * 1024 * 1024;

const WAY_OUT = 'Copy it again from where it came from, or use an older one.';

/** An entry's bytes, whole. */
async function whole(stream: AsyncIterable<Buffer>, size: number, name: string): Promise<Buffer> {
  if (size > MOST_PIECE) throw new ArchiveError(`“${name}” in the archive is too long.`);
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

/** Rows that wait for what they refer to: their key, and the columns. */
interface Later {
  table: ArchivedTable;
  rows: string[];
}

/** What is done with the bytes and the rows of an archive, by whom it is for. */
export interface Taking {
  /** Called first; throws an ArchiveError where this archive is not to be taken in. */
  begin: (head: Head, transaction: Transaction) => Promise<void>;
  /** A row as it is to be written, from one that stands in the archive. */
  row: (table: ArchivedTable, line: string) => string | Promise<string>;
  /** Where bytes are kept as files until all is done: for what is checked by them. */
  folder: string;
  /** Called last, within the transaction. */
  end: (head: Head, transaction: Transaction) => Promise<void>;
}

class Reading {
  head: Head | null = null;
  rows = 0;
  blobs = 0;
  private readonly found: Record<string, string> = {};
  private sums: Record<string, string> | null = null;
  private readonly later: Later[] = [];
  private columns = new Map<string, ReadonlySet<string>>();

  constructor(
    private readonly sequelize: Sequelize,
    private readonly transaction: Transaction,
    private readonly taking: Taking,
  ) {}

  async entry(name: string, size: number, stream: Readable): Promise<void> {
    if (this.sums) throw new ArchiveError(`There is more in the archive behind its end. ${WAY_OUT}`);
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
    await this.taking.begin(read.data, this.transaction);
    this.head = read.data;
  }

  private async blob(name: string, size: number, stream: Readable): Promise<void> {
    if (!sha256Schema.safeParse(name).success)
      throw new ArchiveError(`The archive names bytes wrongly. ${WAY_OUT}`);
    const hash = createHash('sha256');
    const measured = stream.pipe(
      new Transform({
        transform(chunk: Buffer, _encoding, done) {
          hash.update(chunk);
          done(null, chunk);
        },
      }),
    );
    stream.once('error', error => measured.destroy(error));
    const path = join(this.taking.folder, name);
    await pipeline(measured, createWriteStream(path));
    await storeBlob(this.transaction, name, size, createReadStream(path));
    if (hash.digest('hex') !== name) {
      throw new ArchiveError(`The archive is damaged: bytes in it are not what their name says. ${WAY_OUT}`);
    }
    this.blobs++;
  }

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

  private async piece(table: ArchivedTable, name: string, bytes: Buffer): Promise<void> {
    this.found[name] = createHash('sha256').update(bytes).digest('hex');
    const lines = bytes.toString().split('\n').filter(Boolean);
    const rows: string[] = [];
    for (const line of lines) rows.push(await this.taking.row(table, line));
    this.rows += rows.length;
    if (table.later) this.later.push({ table, rows });
    const first = json(
      Buffer.from(rows[0] ?? '{}'),
      v => Object.keys(v as object),
      `Rows of ${table.name} are broken.`,
    );
    const here = await this.columnsOf(table.name);
    // A column that this version does not have any more is left; one that the archive does not have is as it is by itself.
    const columns = first.filter(c => here.has(c) && !table.later?.includes(c)).map(c => `"${c}"`);
    await this.run(
      `INSERT INTO ${table.name} (${columns.join(', ')})
       SELECT ${columns.join(', ')} FROM json_populate_recordset(NULL::${table.name}, $1::json)
       ${table.mayBeThere ? 'ON CONFLICT DO NOTHING' : ''}`,
      rows,
      table,
    );
  }

  /** In slices, so that no statement is too long for the database. */
  private async run(sql: string, rows: readonly string[], { name }: ArchivedTable): Promise<void> {
    const client = clientOf(this.transaction);
    for (let at = 0; at < rows.length;) {
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

  async end(): Promise<Head> {
    const { head, sums } = this;
    if (!head) throw new ArchiveError('This is no archive of Lamp Wash: there is nothing in it.');
    if (!sums) throw new ArchiveError(`The archive is not whole: it ends too early. ${WAY_OUT}`);
    const names = new Set([...Object.keys(sums), ...Object.keys(this.found)]);
    for (const name of names) {
      if (sums[name] !== this.found[name])
        throw new ArchiveError(`The archive is damaged in “${name}”. ${WAY_OUT}`);
    }
    if (this.blobs !== head.blobs)
      throw new ArchiveError(`The archive is not whole: bytes are missing in it. ${WAY_OUT}`);
    for (const { table, rows } of this.later) {
      for (const column of table.later!) {
        await this.run(
          `UPDATE ${table.name} t SET ${column} = r.${column}
             FROM json_populate_recordset(NULL::${table.name}, $1::json) r
            WHERE r.id = t.id AND r.${column} IS NOT NULL`,
          rows,
          table,
        );
      }
    }
    await this.taking.end(head, this.transaction);
    return head;
  }
}

/**
 * Takes an archive in, in one transaction. Throws an ArchiveError where it is none, is damaged, not whole, of a newer version, or where
 * `taking` does; then nothing has changed.
 */
export async function readArchive(sequelize: Sequelize, bytes: Readable, taking: Taking): Promise<TakenIn> {
  await mkdir(taking.folder, { recursive: true });
  try {
    return await sequelize.transaction(async transaction => {
      const reading = new Reading(sequelize, transaction, taking);
      const tar = extract();
      const parting = pipeline(bytes, tar);
      parting.catch(() => undefined);
      try {
        for await (const entry of tar) {
          const { name, size = 0 } = entry.header;
          // eslint-disable-next-line no-restricted-syntax -- it is a readable stream of the package's own kind
          await reading.entry(name, size, entry as unknown as Readable);
          entry.resume();
        }
        await parting;
      } catch (error) {
        if (error instanceof ArchiveError) throw error;
        if (/tar|Unexpected end|Invalid/i.test((error as Error).message)) {
          throw new ArchiveError(
            reading.head
              ? `The archive is not whole: it ends too early. ${WAY_OUT}`
              : 'This is no archive of Lamp Wash.',
          );
        }
        throw error;
      }
      const { of, series } = await reading.end();
      return { of, series, rows: reading.rows, blobs: reading.blobs };
    });
  } finally {
    await rm(taking.folder, { recursive: true, force: true });
  }
}

/** A folder's name for what is being taken in. */
export const newFolder = (within: string) => join(within, `archive-${randomUUID()}`);
