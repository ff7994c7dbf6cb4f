import { ArchiveError, type Head } from './format';
import { RowReader, type ReadPiece, type ReadWhole } from './row-reader';

/** What the thread runs that reads an archive's rows: one thread for each archive, which remembers what it has read. */

/** A piece of the rows, the first of which says of what; or that all have come. */
export type RowTask = { of: Head['of']; table: string; text: string } | 'end';

export type RowResult = { read: ReadPiece } | { whole: ReadWhole } | { wrong: string };

let reader: RowReader | null = null;

export default (task: RowTask): RowResult => {
  try {
    if (task === 'end') return { whole: (reader ?? new RowReader('series')).end() };
    reader ??= new RowReader(task.of);
    return { read: reader.piece(task.table, task.text) };
  } catch (error) {
    if (error instanceof ArchiveError) return { wrong: error.message };
    throw error;
  }
};
