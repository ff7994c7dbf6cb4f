import { z } from 'zod';
import { declare } from './route';

export const getHealth = declare({
  method: 'get',
  path: '/api/health',
  summary: 'Whether the server and its database answer, and its disk has room.',
  answer: z.object({
    name: z.literal('lampwash'),
    ok: z.boolean(),
    database: z.boolean(),
    disk: z.enum(['well', 'full']),
    /** A passphrase must be given before anything else is answered. */
    passphrase: z.boolean(),
  }),
});
