import { bytesOf } from '../../core/formats/carried';
import { carriedBy } from '../../core/treatment/carried-by';
import { readTreatmentFile } from '../../core/treatment/carrying';
import type { Treatment } from '../../core/treatment/treatment';
import { takeIn } from '../engine/carried';

/** An edit that the version before this one could not save, as it lies in the local storage of this browser. */
export interface EarlierUnsaved {
  treatment: Treatment;
  label: string;
  /** The revision that the edit was made from. */
  revision: number;
}

const PREFIX = 'lampwash.unsaved.';

/** Takes such an edit of a take out of the local storage; null where there is none, or none that can be read. */
export async function takeEarlier(takeId: string): Promise<EarlierUnsaved | null> {
  const key = Object.keys(localStorage).find(each => each.startsWith(`${PREFIX}${takeId}.`));
  if (key === undefined) return null;
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as EarlierUnsaved | null;
    if (!kept) return null;
    const treatment = readTreatmentFile(kept.treatment);
    // What it carried stood in it; now it is sent by itself.
    for (const { kind, reference } of carriedBy(treatment)) await takeIn(kind, bytesOf(reference));
    localStorage.removeItem(key);
    return { ...kept, treatment };
  } catch {
    return null;
  }
}
