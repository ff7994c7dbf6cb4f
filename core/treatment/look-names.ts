import { z } from 'zod';

/** What a look is called, and what it is found under. */

export const lookName = z.string().trim().min(1).max(80);
export const lookGroup = z.string().trim().min(1).max(60);
