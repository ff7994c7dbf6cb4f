import type { Credits as Said } from '../../contract/send-outs';
import { Credits } from './models';

/** Whose pictures they are; empty as long as nothing was said. */
export async function currentCredits(): Promise<Said> {
  const row = await Credits.findOne();
  return { author: row?.author ?? '', rights: row?.rights ?? '' };
}
