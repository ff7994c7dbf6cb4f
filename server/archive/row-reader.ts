import { randomUUID } from 'node:crypto';
import type { CarriedKind } from '../../core/formats/carried';
import { carriedBy, type Carried } from '../../core/treatment/carried-by';
import { toldOf } from '../../core/treatment/saved';
import { ArchiveError, type Head } from './format';
import { checkShelfRow, lineOf, packageRow, treatmentIn } from './rows';
import { Histories } from './states';
import { archivedTables, type ArchivedTable } from './tables';

/**
 * The reading of an archive's rows, whatever stands in them: it touches neither files nor the database, and runs in a thread of
 * its own, since a row from anybody may take long.
 */

/** What a piece of rows is found to be. */
export interface ReadPiece {
  /** The rows as they are to be written. */
  lines: string[];
  /** Bytes that treatments carry, to be checked. */
  carried: { sha256: string; kind: CarriedKind }[];
  /** Which of the rows are photographs that are to be told of by their originals. */
  photographs: { line: number; sha256: string; page: number; title: string }[];
}

/** The ids of what a package brings. */
export type Brought = Record<'series' | 'photographs' | 'takes' | 'looks', string[]>;

/** What all rows together are found to be. */
export interface ReadWhole {
  ids: Brought;
  /** What the states of each take carry. */
  carries: [take: string, carried: Carried[]][];
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** Reads rows, piece by piece, in the order of the archive. */
export class RowReader {
  private readonly histories = new Histories();
  private readonly ids: Brought = { series: [], photographs: [], takes: [], looks: [] };
  private readonly fresh = new Map<string, string>();
  private readonly carries = new Map<string, Map<string, Carried>>();

  /** @param of a shelf's rows stay as they are; those of a package get other ids, and nothing that they say of originals is believed */
  constructor(private readonly of: Head['of']) {}

  /** Reads a piece. Throws an ArchiveError. */
  piece(tableName: string, text: string): ReadPiece {
    const table = archivedTables.find(t => t.name === tableName)!;
    const read: ReadPiece = { lines: [], carried: [], photographs: [] };
    for (const line of text.split('\n')) {
      if (!line) continue;
      try {
        if (this.of === 'shelf') this.shelfRow(table, line, read);
        else this.packageRow(table, line, read);
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        throw new ArchiveError(`A row of ${table.name} in the archive is nested too deeply.`);
      }
    }
    return read;
  }

  /** When all have come. Throws an ArchiveError where a history is not whole. */
  end(): ReadWhole {
    this.histories.end();
    return { ids: this.ids, carries: [...this.carries].map(([take, of]) => [take, [...of.values()]]) };
  }

  private shelfRow(table: ArchivedTable, line: string, read: ReadPiece): void {
    const row = checkShelfRow(table, lineOf(table, line));
    if (table.name === 'takes') this.histories.expect(row);
    if (table.name === 'take_states') this.histories.read(row);
    if (table.name === 'carried') read.carried.push(row as ReadPiece['carried'][number]);
    read.lines.push(line);
  }

  private packageRow(table: ArchivedTable, line: string, read: ReadPiece): void {
    const row = packageRow(table, this.withFreshIds(lineOf(table, line)));
    if (table.name in this.ids) this.ids[table.name as keyof Brought].push(row.id as string);
    if (table.name === 'carried') read.carried.push(row as ReadPiece['carried'][number]);
    if (table.name === 'photographs') {
      const { sha256, page, title } = row as ReadPiece['photographs'][number];
      read.photographs.push({ line: read.lines.length, sha256, page, title });
    }
    if (table.name === 'takes') this.histories.expect(row);
    if (table.name === 'take_states') {
      const treatment = this.histories.read(row);
      // Told of by what stands in it, not by what is said of it.
      Object.assign(row, toldOf(treatment));
      this.noteCarried(row.take_id as string, carriedBy(treatment));
    }
    if (table.name === 'looks') row.treatment = treatmentIn(row.treatment, `the look ${row.name as string}`);
    read.lines.push(JSON.stringify(row));
  }

  private noteCarried(takeId: string, carried: readonly Carried[]): void {
    const known = this.carries.get(takeId) ?? new Map<string, Carried>();
    for (const each of carried) known.set(each.reference.sha256, each);
    this.carries.set(takeId, known);
  }

  private freshId(of: string): string {
    const key = of.toLowerCase();
    const known = this.fresh.get(key) ?? randomUUID();
    this.fresh.set(key, known);
    return known;
  }

  /** The same with other ids, however they are written. */
  private withFreshIds(value: unknown): unknown {
    if (typeof value === 'string') return UUID.test(value) ? this.freshId(value) : value;
    if (Array.isArray(value)) return value.map(each => this.withFreshIds(each));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, this.withFreshIds(each)]));
  }
}
