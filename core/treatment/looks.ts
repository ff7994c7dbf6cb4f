import { z } from 'zod';
import { wholeFrame } from '../frame/frame';
import { readTreatmentFile, treatmentFile } from './carrying';
import { withoutAside } from './laying';
import { lookGroup, lookName } from './look-names';
import { TreatmentError, type Treatment } from './treatment';
import { firstIssue } from './schema';

/** Looks: treatments that are kept under a name, whole or in part, to be laid on any photograph. */

export const LOOK_FORMAT = 'lampwash-look';
export const LOOK_VERSION = 1;
/** A file holds at most so many. */
export const MOST_LOOKS = 500;

export interface Look {
  name: string;
  /** What it is found under, beside others of its kind. */
  group: string;
  /** Its steps with what they need, in no frame. */
  treatment: Treatment;
}

const fileSchema = z.strictObject({
  format: z.literal(LOOK_FORMAT, {
    error: issue => `is ${JSON.stringify(issue.input)}, not ${JSON.stringify(LOOK_FORMAT)}`,
  }),
  version: z.literal(LOOK_VERSION, {
    error: issue => `version ${JSON.stringify(issue.input)} is not known; this is version ${LOOK_VERSION}`,
  }),
  looks: z
    .array(z.strictObject({ name: lookName, group: lookGroup.default('My looks'), treatment: z.unknown() }), {
      error: 'is not a list of looks',
    })
    .min(1, 'holds no look')
    .max(MOST_LOOKS, `holds more than ${MOST_LOOKS} looks`),
});

/**
 * A treatment as a look has it: in no frame, which belongs to one photograph, following no other look, and without what was put
 * aside for another step.
 */
export function asLookHas(treatment: Treatment): Treatment {
  const seen = withoutAside(treatment);
  return { ...seen, frame: wholeFrame(), steps: seen.steps.map(({ look: _, ...step }) => step) };
}

/** Reads the JSON of a file of looks. Throws a TreatmentError that names the first wrong place. */
export function readLooks(json: unknown): Look[] {
  const read = fileSchema.safeParse(json);
  if (!read.success) {
    const { path, reason } = firstIssue(read.error);
    throw new TreatmentError(path, reason);
  }
  return read.data.looks.map(({ name, group, treatment }, i) => {
    try {
      return { name, group, treatment: asLookHas(readTreatmentFile(treatment)) };
    } catch (error) {
      if (!(error instanceof TreatmentError)) throw error;
      const at = `looks[${i}].treatment`;
      throw new TreatmentError(error.path ? `${at}.${error.path}` : at, error.reason);
    }
  });
}

/** Looks as their file has them, with all that they carry in full. Throws NotAtHand. */
export const looksFile = (looks: readonly Look[]): object => ({
  format: LOOK_FORMAT,
  version: LOOK_VERSION,
  looks: looks.map(({ name, group, treatment }) => ({ name, group, treatment: treatmentFile(treatment) })),
});
