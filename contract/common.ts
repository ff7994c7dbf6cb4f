import { z } from 'zod';

/** The parameters of what has an id. */
export const byId = z.strictObject({ id: z.uuid() });

/** An error, as RFC 9457 has it. */
export const problemSchema = z.looseObject({
  type: z.string(),
  status: z.int(),
  title: z.string(),
  detail: z.string().optional(),
});
