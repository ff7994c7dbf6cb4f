import { z } from 'zod';

/**
 * The archive of a shelf or of one series: a tar, which any program opens. It begins with `lampwash.json`, which says what it is. Then come
 * the bytes of originals and of what treatments carry, each under its SHA-256; then the rows of each table, in pieces, a line of JSON each;
 * and at the end `sums.json`, the SHA-256 of each piece, without which an archive is not whole.
 */

export const HEAD = 'lampwash.json';
export const SUMS = 'sums.json';
export const BLOBS = 'blobs/';
export const ROWS = 'rows/';

export const sha256 = z.string().regex(/^[0-9a-f]{64}$/);

export const headSchema = z.object({
  format: z.literal('lampwash-archive'),
  version: z.literal(1),
  /** All of a shelf, or one series of it. */
  of: z.enum(['shelf', 'series']),
  made: z.iso.datetime(),
  /** The migrations that the database had which wrote it. */
  migrations: z.array(z.string()).max(1000),
  series: z.array(z.object({ id: z.uuid(), title: z.string() })).max(100_000),
  blobs: z.int().min(0),
  bytes: z.number().min(0),
});
export type Head = z.infer<typeof headSchema>;

export const sumsSchema = z.record(z.string(), sha256);

/** A piece of the rows of a table is about so long, in bytes; one row may be longer. */
export const PIECE = 4 * 1024 * 1024;

/** The name of a piece of a table's rows. */
export const pieceName = (table: string, piece: number) =>
  `${ROWS}${table}.${String(piece).padStart(5, '0')}.ndjson`;

/** The table of a piece; undefined where it is no piece's name. */
export const tableOf = (name: string): string | undefined => /^rows\/(\w+)\.\d+\.ndjson$/.exec(name)?.[1];

/** An archive that cannot be taken in; the message says why, and what to do. */
export class ArchiveError extends Error {
  /** @param aside series of it that are put aside here: back with them, or away for good, and there is no more to refuse */
  constructor(
    message: string,
    readonly aside: readonly { id: string; title: string }[] = [],
  ) {
    super(message);
  }
}
