import { z } from 'zod';
import { sentPatch } from '../../contract/takes';
import { sendOutSettings } from '../../contract/send-outs';
import { pigmentSchema } from '../../core/settings/schema';
import { parseTreatment } from '../../core/treatment/schema';
import { TreatmentError } from '../../core/treatment/treatment';
import { cleanName } from '../pictures/clean-name';
import { ArchiveError, sha256 } from './format';
import type { ArchivedTable } from './tables';

/** What the rows of an archive may hold. Nothing is written that has not been read here: an archive may come from anybody. */

/** Characters that make one line look like several, or like another: controls, breaks, and turns of direction. */
// eslint-disable-next-line no-control-regex -- just these are meant
const UNSEEN = /[\u0000-\u001f\u007f\u0085\u2028\u2029\u202a-\u202e\u2066-\u2069]/;

const long = (most: number) => z.string().max(most);
const text = (most: number) => long(most).refine(v => !UNSEEN.test(v), 'has characters that no name has');
const name = (most: number) => text(most).min(1);
const fileName = (most: number) => name(most).refine(v => !/[/\\]/.test(v) && v !== '..', 'is a path');
const when = z.iso.datetime({ offset: true, local: true });
const id = z.uuid();
const counted = z
  .int()
  .min(0)
  .max(2 ** 31 - 1);
const whole = z
  .int()
  .min(-(2 ** 31))
  .max(2 ** 31 - 1);

/** Rows of a package, from somebody else: columns that are not here are as they are in a series that has just come in. */
const packageRows: Record<string, z.ZodType<Record<string, unknown>>> = {
  carried: z.object({ sha256, kind: z.enum(['table', 'picture']) }),
  series: z.object({ id, title: name(200), caption: long(2000), cover_id: id.nullable() }),
  photographs: z.object({
    id,
    series_id: id,
    place: z.number(),
    title: name(200),
    file_name: name(500).transform(cleanName),
    sha256,
    page: counted.max(10_000),
    taken: text(40).nullable(),
    taken_read: z.boolean(),
    camera: text(200).nullable(),
    author: text(200).nullable(),
    caption: long(2000),
    current_take_id: id.nullable(),
  }),
  takes: z.object({
    id,
    photograph_id: id,
    letter: z.string().regex(/^[A-Z]{1,3}$/),
    name: text(200),
    place: whole,
    revision: counted,
    current_state: counted,
    redo_tip: counted,
  }),
  take_states: z.object({
    take_id: id,
    number: counted,
    parent: counted.nullable(),
    label: text(500),
    patch: sentPatch.nullable(),
    treatment: z.unknown(),
    patches_since: counted,
    bytes_since: counted,
    created_at: when,
  }),
  take_carries: z.object({ take_id: id, sha256 }),
  looks: z.object({ id, series_id: id, name: name(80), group: name(60), treatment: z.unknown() }),
  look_carries: z.object({ look_id: id, sha256 }),
};

const removed = { created_at: when, deleted_at: when.nullable() };

/** Rows of a whole shelf: all of their columns, and no other. One that an earlier version did not have may be missing. */
const shelfRows: Record<string, z.ZodType<Record<string, unknown>>> = {
  carried: z
    .strictObject({ sha256, kind: z.enum(['table', 'picture']), created_at: when, touched_at: when })
    .partial(),
  series: z
    .strictObject({
      ...{ id, title: name(200), caption: long(2000), cover_id: id.nullable(), demo: z.boolean() },
      ...removed,
      touched_at: when,
    })
    .partial(),
  photographs: z
    .strictObject({
      ...{ id, series_id: id, place: z.number(), title: name(200), file_name: fileName(500), sha256 },
      media_type: z.string().regex(/^image\/[\w.+-]{1,60}$/),
      ...{ width: counted.min(1).max(100_000), height: counted.min(1).max(100_000) },
      ...{ bits: z.literal([8, 16]), grey: z.boolean(), profile: text(200).nullable() },
      ...{ current_take_id: id.nullable(), damage: text(500).nullable(), part: text(500).nullable() },
      ...{ taken: text(40).nullable(), taken_read: z.boolean(), caption: long(2000) },
      ...{ page: counted.max(10_000), camera: text(200).nullable(), author: text(200).nullable() },
      ...removed,
    })
    .partial(),
  takes: z
    .strictObject({
      ...{ id, photograph_id: id, letter: z.string().regex(/^[A-Z]{1,3}$/), name: text(200), place: whole },
      ...{ revision: counted, current_state: counted, redo_tip: counted, last_command: id.nullable() },
      ...removed,
    })
    .partial(),
  take_states: z
    .strictObject({
      ...{ take_id: id, number: counted, parent: counted.nullable(), label: text(500) },
      ...{ patch: sentPatch.nullable(), treatment: z.unknown() },
      ...{ patches_since: counted, bytes_since: counted, created_at: when, steps: counted.max(10_000) },
      kinds: z.array(text(60)).max(10_000),
      looks: z.array(text(200)).max(10_000),
      frame: z.unknown(),
    })
    .partial(),
  take_carries: z.strictObject({ take_id: id, sha256 }),
  looks: z
    .strictObject({
      ...{ id, name: name(80), group: text(60), treatment: z.unknown(), series_id: id.nullable() },
      ...{ revision: counted, since: z.record(text(200), counted) },
      ...removed,
    })
    .partial(),
  look_carries: z.strictObject({ look_id: id, sha256 }),
  colour_tables: z.strictObject({ id, name: name(200), shelf: text(200), sha256, ...removed }).partial(),
  pigments: z
    .strictObject({
      id,
      name: name(200),
      pigment: pigmentSchema,
      depth: z.number().min(0).max(1),
      ...removed,
    })
    .partial(),
  send_out_settings: z
    .strictObject({ id, name: name(200), settings: z.unknown(), created_at: when })
    .partial(),
  credits: z.strictObject({ one: z.boolean(), author: long(500), rights: long(2000) }).partial(),
  send_outs: z
    .strictObject({
      ...{ id, take_id: id, series_id: id, treatment: z.unknown(), settings: z.unknown() },
      ...{ file_name: fileName(500), state: z.enum(['done', 'failed', 'stopped']), progress: z.number() },
      ...{ problem: long(2000).nullable(), note: long(2000).nullable(), attempt: counted },
      ...{ result_sha256: sha256.nullable(), result_size: z.number().min(0).nullable() },
      ...{ created_at: when, touched_at: when },
    })
    .partial(),
  batches: z
    .strictObject({
      ...{ id, series_id: id, label: text(500), work: z.record(z.string().max(60), z.unknown()) },
      ...{ state: z.enum(['done', 'stopped', 'undone']), created_at: when },
    })
    .partial(),
  batch_items: z
    .strictObject({
      ...{ batch_id: id, place: counted, photograph_id: id, command: id },
      state: z.enum(['waiting', 'done', 'same', 'failed', 'undone']),
      ...{ problem: long(2000).nullable(), take_id: id.nullable(), before_take: id.nullable() },
      after_state: counted.nullable(),
    })
    .partial(),
};

/** A treatment that stands in a row. Throws an ArchiveError that says of what. */
export function treatmentIn(value: unknown, of: string) {
  try {
    return parseTreatment(value);
  } catch (error) {
    if (!(error instanceof TreatmentError)) throw error;
    throw new ArchiveError(`The treatment of ${of} in the archive is not valid: ${error.message}`);
  }
}

function parsed(schema: z.ZodType<Record<string, unknown>> | undefined, table: string, value: unknown) {
  if (!schema) throw new ArchiveError(`A package does not hold ${table}.`);
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const where = [...issue.path, ...(issue.code === 'unrecognized_keys' ? issue.keys : [])].join('.');
  throw new ArchiveError(
    `A row of ${table} in the archive is not valid: ${where.slice(0, 80)} ${issue.message}.`.replace(
      /\.+$/,
      '.',
    ),
  );
}

/** A line of an archive as JSON. Throws an ArchiveError. */
export function lineOf({ name: table }: ArchivedTable, line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    throw new ArchiveError(`A row of ${table} in the archive is not valid: it is no JSON.`);
  }
}

/** A row of a package, as far as it is taken. Throws an ArchiveError. */
export const packageRow = ({ name: table }: ArchivedTable, value: unknown) =>
  parsed(packageRows[table], table, value);

/** Reads a row of a whole shelf. Throws an ArchiveError. */
export function checkShelfRow({ name: table }: ArchivedTable, value: unknown): Record<string, unknown> {
  const row = parsed(shelfRows[table], table, value);
  if (table === 'looks') treatmentIn(row.treatment, `the look ${String(row.name)}`);
  if (table === 'send_outs') treatmentIn(row.treatment, `the file ${String(row.file_name)}`);
  if (table === 'send_outs' || table === 'send_out_settings') {
    // A setting that there was once may stand there.
    const { error } = sendOutSettings.safeParse(row.settings ?? {});
    if (error?.issues.some(({ code }) => code !== 'unrecognized_keys')) {
      throw new ArchiveError(`Settings in a row of ${table} in the archive are not valid.`);
    }
  }
  return row;
}
