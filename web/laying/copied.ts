import { bytesOf, isAtHand, NotAtHand } from '../../core/formats/carried';
import { carriedBy } from '../../core/treatment/carried-by';
import { readTreatmentFile, treatmentFile } from '../../core/treatment/carrying';
import { TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { takeIn } from '../engine/carried';

/** Treatments on the clipboard, as the JSON of their file: from one photograph, take or window to another. */

/** Copied last in this browser, for windows that may not read the clipboard. */
const LAST = 'lampwash copied';

/** A treatment as text: what it carries in full where that is at hand here, else as references. */
export function textOf(treatment: Treatment): string {
  try {
    return JSON.stringify(treatmentFile(treatment), null, 1);
  } catch (error) {
    if (error instanceof NotAtHand) return JSON.stringify(treatment, null, 1);
    throw error;
  }
}

/** Notes what has been copied, beside the clipboard. */
export function remember(text: string): void {
  try {
    localStorage.setItem(LAST, text);
  } catch {
    // Too much for that place: then the clipboard alone has it.
  }
}

/** What was copied, from the clipboard where that may be read. */
export async function copiedText(): Promise<string | null> {
  const last = localStorage.getItem(LAST);
  try {
    return (await navigator.clipboard.readText()) || last;
  } catch {
    return last;
  }
}

/** Puts text on the clipboard where that may be written. */
export async function copyText(text: string): Promise<void> {
  remember(text);
  await navigator.clipboard.writeText(text).catch(() => undefined);
}

/** Has what a treatment carries, as far as it came in with it, in this window and on its way to the server. */
export async function takeInCarried(treatment: Treatment): Promise<void> {
  for (const { kind, reference } of carriedBy(treatment)) {
    if (isAtHand(reference.sha256)) await takeIn(kind, bytesOf(reference));
  }
}

/** Reads text as a treatment. Throws an Error that says why it is none. */
export async function treatmentFrom(text: string): Promise<Treatment> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Error('On the clipboard is no treatment. Copy a step or a treatment first.');
  }
  try {
    const treatment = readTreatmentFile(json);
    await takeInCarried(treatment);
    return treatment;
  } catch (error) {
    if (error instanceof TreatmentError) {
      throw new Error(`What is on the clipboard is not a treatment: ${error.message}`, { cause: error });
    }
    throw error;
  }
}
