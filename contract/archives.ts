import { z } from 'zod';
import { byId } from './common';
import { declare } from './route';

/** The whole shelf, or one series, as one file: a tar that any program opens. */

export const ARCHIVE_TYPE = 'application/x-tar';

export const getBackup = declare({
  method: 'get',
  path: '/api/backup',
  summary:
    'The whole shelf as it is at this moment, in one file: series, originals, takes with their history, looks, pigments, tables, finished files.',
  gives: ARCHIVE_TYPE,
});

export const getPackage = declare({
  method: 'get',
  path: '/api/series/:id/package',
  summary: 'One series with its originals and its takes, to be taken in elsewhere.',
  params: byId,
  gives: ARCHIVE_TYPE,
});

export const takenIn = z.object({
  /** A shelf's backup, or one series' package. */
  of: z.enum(['shelf', 'series']),
  series: z.array(z.object({ id: z.uuid(), title: z.string() })),
  rows: z.int(),
  blobs: z.int(),
});
export type TakenIn = z.infer<typeof takenIn>;

export const takeInArchive = declare({
  method: 'post',
  path: '/api/archives',
  summary:
    'Takes in a backup, beside what is on the shelf, or a package, as a new series. All of it or nothing: 422 where it is damaged, not whole, or not valid.',
  takes: ARCHIVE_TYPE,
  answer: takenIn,
});

export const getBackups = declare({
  method: 'get',
  path: '/api/backups',
  summary: 'The backups that the server makes by itself; null where it makes none.',
  answer: z
    .object({
      folder: z.string(),
      /** One is made every so many hours, and so many are kept. */
      hours: z.int(),
      kept: z.int(),
      /** When the last was made; null where there is none yet. */
      last: z.iso.datetime().nullable(),
      /** Why the next could not be made. */
      problem: z.string().nullable(),
    })
    .nullable(),
});
