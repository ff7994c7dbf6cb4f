import { z } from 'zod';
import { byId } from './common';
import { declare } from './route';

/** What a take does to colours, as a table that other programs read. */

export const tableSizes = [17, 33, 65] as const;
const query = z.strictObject({ size: z.coerce.number().pipe(z.literal(tableSizes)).default(33) });

const exactness = z.object({
  /** Steps that no table can hold: they lie on an area, or look beyond a single colour. */
  left: z.array(z.object({ kind: z.string(), name: z.string(), why: z.enum(['area', 'beyond']) })),
  /** How far the table is from the take on its photograph, as CIEDE2000. */
  mean: z.number(),
  worst: z.number(),
});
export type TableExactness = z.infer<typeof exactness>;

export const getTableExactness = declare({
  method: 'get',
  path: '/api/takes/:id/cube/exactness',
  summary: 'What a take loses as a colour table, and how exact the rest is on its photograph.',
  params: byId,
  query,
  answer: exactness,
});

export const getTakeTable = declare({
  method: 'get',
  path: '/api/takes/:id/cube',
  summary: 'What a take does to colours, as a 3D colour table in the .cube form.',
  params: byId,
  query,
  gives: 'text/plain',
});
