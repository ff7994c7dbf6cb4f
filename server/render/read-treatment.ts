import { MOST_TREATMENT } from '../../contract/limits';
import { unwritable } from '../../contract/writable';
import { bytesOf, isAtHand, type CarriedKind } from '../../core/formats/carried';
import { carriedBy } from '../../core/treatment/carried-by';
import { readTreatmentFile } from '../../core/treatment/carrying';
import { TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { jsonLength } from '../../core/treatment/size';

/** The reading of requests that hold a whole treatment, with all that it carries: in a thread, since it may be long. */

interface Read {
  carried: { kind: CarriedKind; sha256: string; bytes: Uint8Array }[];
}

/** A treatment out of a request, read and checked, and what stood in it in full. */
export interface ReadTreatment extends Read {
  treatment: Treatment;
}

/** The same on its way out of a thread: as text, which is far faster than its hundreds of thousands of points. */
interface Told extends Read {
  json: string;
}

/** The text of a request. */
export interface ReadBody {
  readBody: string;
}

/** Its JSON with the treatment taken out, or what is wrong with it. */
export type Body =
  | { body: Record<string, unknown>; whole: Told | null }
  | { wrong: { status: number; title: string; detail?: string } };

export const tooLarge = {
  status: 413,
  title: `A treatment has up to ${MOST_TREATMENT / 1024 ** 2} MB, without what it carries.`,
};

function readWhole(json: unknown): ReadTreatment {
  const treatment = readTreatmentFile(json);
  const carried = carriedBy(treatment)
    .filter(({ reference }) => isAtHand(reference.sha256))
    .map(({ kind, reference }) => ({ kind, sha256: reference.sha256, bytes: bytesOf(reference) }));
  return { treatment, carried };
}

/** Reads the text of a request that may hold a treatment under that name. */
export function readBody({ readBody: text }: ReadBody): Body {
  const refused = (status: number, title: string, detail?: string) => ({ wrong: { status, title, detail } });
  let json: unknown;
  try {
    json = text === '' ? {} : JSON.parse(text);
  } catch {
    return refused(400, 'The request is not valid JSON.');
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json)) {
    return refused(400, 'The request is not valid.', 'expected an object');
  }
  const found = text.includes('\\u') || text.includes('\0') ? unwritable(json) : null;
  if (found) return refused(400, 'The request is not valid.', found);
  const { treatment, ...body } = json as Record<string, unknown>;
  if (treatment === undefined) return { body, whole: null };
  try {
    const whole = readWhole(treatment);
    if (jsonLength(whole.treatment) > MOST_TREATMENT) return { wrong: tooLarge };
    return { body, whole: { json: JSON.stringify(whole.treatment), carried: whole.carried } };
  } catch (error) {
    if (error instanceof TreatmentError) return refused(400, 'The treatment is not valid.', error.message);
    throw error;
  }
}
