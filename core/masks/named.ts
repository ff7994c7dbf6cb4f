import type { Mask } from './schema';

/** A mask of a treatment by its id, which the treatment's reading has made sure of. */
export const byId = (masks: readonly Mask[], id: string): Mask => masks.find(m => m.id === id)!;
