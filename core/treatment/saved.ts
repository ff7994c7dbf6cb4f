import { isAtWork } from './alternatives';
import { PatchError, patched, type Patch } from './patch';
import { parseTreatment } from './schema';
import { looksOf } from './shared';
import type { Treatment } from './treatment';

/** Treatments as they are kept: by patches, and with what lists tell of them. */

/**
 * A saved treatment with a patch laid on. The patch may be of a later version than what it is laid on, and touch a setting
 * that this does not have yet: then it is read first, which fills that in. Throws a PatchError, or a TreatmentError.
 */
export function patchedOver(saved: unknown, patch: Patch): unknown {
  try {
    return patched(saved, patch);
  } catch (error) {
    if (!(error instanceof PatchError)) throw error;
    return patched(parseTreatment(saved), patch);
  }
}

/** What lists tell of a treatment without reading it. */
export const toldOf = (treatment: Treatment) => ({
  kinds: treatment.steps.filter(isAtWork).map(s => s.kind),
  steps: treatment.steps.length,
  looks: looksOf(treatment),
  frame: treatment.frame,
});
