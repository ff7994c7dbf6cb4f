import { z } from 'zod';
import { toneZones } from '../core/analysis/evenness';
import { byId } from './common';
import { declare } from './route';

/** How even a series is: what is measured of its photographs. */

const colour = z.object({ a: z.number(), b: z.number() }).nullable();
const measures = z.object({
  zones: z.record(z.enum(toneZones), colour),
  black: z.number(),
  white: z.number(),
  contrast: z.number(),
  key: z.number(),
});

const evennessView = z.object({
  /** In the order of the series. */
  photographs: z.array(
    z.object({
      id: z.uuid(),
      takeId: z.uuid(),
      revision: z.int(),
      /** Nothing is done to it. */
      bare: z.boolean(),
      /** Null for a bare one, and for one that is still being measured. */
      measures: measures.nullable(),
    }),
  ),
  /** Photographs that are still being measured: ask again. */
  waiting: z.int(),
});
export type SeriesEvenness = z.infer<typeof evennessView>;

export const getEvenness = declare({
  method: 'get',
  path: '/api/series/:id/evenness',
  summary:
    'CIELAB a* and b* of shadows, middles and lights, the ends and the contrast of each treated photograph, as far as they are measured yet.',
  params: byId,
  answer: evennessView,
});
