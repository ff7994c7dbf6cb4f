import type { Treatment } from '../../core/treatment/treatment';

/**
 * A treatment in memory that threads share: written once however many pieces of work it goes along with. A long one
 * would else be copied for each of them, by the thread that answers.
 */
export type Told = SharedArrayBuffer;

const known = new WeakMap<Treatment, Told>();

export function tell(treatment: Treatment): Told {
  let told = known.get(treatment);
  if (!told) {
    const bytes = Buffer.from(JSON.stringify(treatment));
    told = new SharedArrayBuffer(bytes.length);
    new Uint8Array(told).set(bytes);
    known.set(treatment, told);
  }
  return told;
}

/** What was told. Only what has been read as a treatment is told, so it is not read again. */
export const hear = (told: Told): Treatment => JSON.parse(Buffer.from(told).toString('utf8')) as Treatment;
