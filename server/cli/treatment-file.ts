import { readFile } from 'node:fs/promises';
import { readTreatmentFile } from '../../core/treatment/carrying';
import { TreatmentError, type Treatment } from '../../core/treatment/treatment';
import { CommandError, readingProblem } from './command';

const MOST_BYTES = 256 * 1024 * 1024;

/** Reads a treatment file; what is wrong in it is told with its place in the JSON. */
export async function treatmentAt(path: string): Promise<Treatment> {
  let text: string;
  try {
    const bytes = await readFile(path);
    if (bytes.length > MOST_BYTES) throw new CommandError(`${path}: is too large for a treatment`);
    text = bytes.toString('utf8');
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${path}: ${readingProblem(error)}`);
  }
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new CommandError(`${path}: not JSON: ${(error as Error).message}`);
  }
  try {
    return readTreatmentFile(json);
  } catch (error) {
    if (error instanceof TreatmentError) throw new CommandError(`${path}: ${error.message}`);
    throw error;
  }
}
