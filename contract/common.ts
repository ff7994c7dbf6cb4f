import { z } from 'zod';

/** The parameters of what has an id. */
export const byId = z.strictObject({ id: z.uuid() });

/** A number of a state or a revision: as far as the database counts. */
export const counted = z
  .int()
  .min(0)
  .max(2 ** 31 - 1);
export const countedInAddress = z.coerce.number().pipe(counted);

/** Ids, each there once. */
export const idList = (most: number) =>
  z
    .array(z.uuid())
    .max(most)
    .superRefine((ids, context) => {
      const seen = new Set<string>();
      const twice = ids.findIndex(id => seen.size === seen.add(id).size);
      if (twice >= 0)
        context.addIssue({ code: 'custom', path: [twice], message: `${ids[twice]} is there twice` });
    });

/** An error, as RFC 9457 has it. */
export const problemSchema = z.looseObject({
  type: z.string(),
  status: z.int(),
  title: z.string(),
  detail: z.string().optional(),
});
