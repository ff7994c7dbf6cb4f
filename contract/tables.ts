import { z } from 'zod';
import { referenceSchema } from '../core/settings/schema';
import { byId } from './common';
import { declare } from './route';

/** Colour tables that are kept for all photographs. */

const name = z.string().trim().min(1).max(60);
const group = z.string().trim().max(60);

const tableSummary = z.object({
  id: z.uuid(),
  name: z.string(),
  group: z.string(),
  sha256: z.string(),
});
export type TableSummary = z.infer<typeof tableSummary>;

export const listTables = declare({
  method: 'get',
  path: '/api/tables',
  summary: 'All colour tables, by group and name. Their texts are under /api/carried.',
  answer: z.array(tableSummary),
});

export const keepTable = declare({
  method: 'post',
  path: '/api/tables',
  summary: 'Keeps a colour table whose text has been sent to /api/carried.',
  body: z.strictObject({ name, group: group.default(''), sha256: referenceSchema.shape.sha256 }),
  answer: tableSummary,
});

export const changeTable = declare({
  method: 'patch',
  path: '/api/tables/:id',
  summary: 'Names a colour table, or puts it into a group.',
  params: byId,
  body: z.strictObject({ name: name.optional(), group: group.optional() }),
  answer: tableSummary,
});

export const removeTable = declare({
  method: 'delete',
  path: '/api/tables/:id',
  summary: 'Removes a colour table from those kept. Takes that use it carry it on.',
  params: byId,
});

export const restoreTable = declare({
  method: 'post',
  path: '/api/tables/:id/restore',
  summary: 'Brings a removed colour table back.',
  params: byId,
  answer: tableSummary,
});
