import { mkdir, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { basename, extname, join } from 'node:path';
import PQueue from 'p-queue';
import { eachOnce } from '../../contract/file-name';
import { CommandError, readingProblem, refuseOver, SomeFailed, wholeNumber, writeOut } from './command';
import { ProgressLine } from './progress';

/** One file from each of many pictures. */

export const MANY_OPTIONS = {
  out: { type: 'string' },
  jobs: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** Whether a path is that of a folder: one that is there, or that ends as one. */
export async function isFolder(path: string): Promise<boolean> {
  return /[/\\]$/.test(path) || ((await stat(path).catch(() => null))?.isDirectory() ?? false);
}

/** The files that pictures become in a folder, which is made; each has a name of its own. */
export async function namesIn(
  folder: string,
  pictures: readonly string[],
  ending: string,
): Promise<string[]> {
  await mkdir(folder, { recursive: true }).catch((error: unknown) => {
    throw new CommandError(`${folder}: ${readingProblem(error)}`);
  });
  const names = eachOnce(pictures.map(path => `${basename(path, extname(path))}.${ending}`));
  return names.map(name => join(folder, name));
}

/** How many pictures are made at once. */
export const jobsAsked = (text: string | undefined): number =>
  text === undefined ? Math.min(2, availableParallelism()) : wholeNumber(text, '--jobs', 1, 32);

/** A file that was written, and what of. */
interface Written {
  picture: string;
  file: string;
  bytes: number;
}

/**
 * Makes a file of each picture, some at once. One that cannot be made is named, and the others go on; then it throws SomeFailed.
 * @param inputs what is read beside the pictures, which is never written over
 */
export async function makeMany(
  pairs: readonly (readonly [picture: string, file: string])[],
  inputs: readonly string[],
  jobs: number,
  asJson: boolean,
  make: (picture: string) => Promise<Buffer>,
): Promise<void> {
  const pictures = pairs.map(([picture]) => picture);
  for (const [, file] of pairs) await refuseOver(file, ...pictures, ...inputs);
  const progress = new ProgressLine();
  const written: Written[] = [];
  const failed: { picture: string; problem: string }[] = [];
  const queue = new PQueue({ concurrency: jobs });
  await queue.addAll(
    pairs.map(([picture, file]) => async () => {
      try {
        const bytes = await make(picture);
        await writeOut(file, bytes);
        written.push({ picture, file, bytes: bytes.length });
      } catch (error) {
        if (!(error instanceof CommandError)) throw error;
        progress.clear();
        process.stderr.write(`${error.message}\n`);
        failed.push({ picture, problem: error.message });
      }
      progress.say(`${written.length + failed.length} of ${pairs.length}: ${basename(file)}`);
    }),
  );
  progress.clear();
  if (asJson) process.stdout.write(`${JSON.stringify({ written, failed })}\n`);
  if (failed.length) throw new SomeFailed(failed.length, pairs.length);
}
