import { createReadStream, fstatSync, openSync } from 'node:fs';
import { Transform } from 'node:stream';
import { ArchiveError } from '../archive/format';
import { takeIn } from '../archive/take-in';
import { readConfig } from '../config';
import { bringUpToDate } from '../data/migrate';
import { openServices } from '../services';
import { CommandError, readArguments, readingProblem, runCommand } from './command';
import { megabytes, ProgressLine } from './progress';

const HELP = `Takes a backup of a shelf, or the package of a series, in: all of it or nothing, also while Lamp Wash is running.

  npm run --silent restore -- FILE.tar [--json]

  FILE.tar    what backup wrote, or Lamp Wash gave away
  --json      say what was taken in as one line of JSON

A backup comes into a shelf that does not have its series yet; a package comes in as a new series.
Ends with 0, or with 2 and one line that says what is wrong; then nothing has changed.
`;

/** The file, as it is handed on to whom this runs as, or opened here. */
function opened(file: string): number {
  const { LAMPWASH_FILE: handed } = process.env;
  if (handed) return Number(handed);
  try {
    return openSync(file, 'r');
  } catch (error) {
    throw new CommandError(`${file}: ${readingProblem(error)}`);
  }
}

async function restore(): Promise<void> {
  const read = readArguments({ json: { type: 'boolean' } }, HELP);
  if (!read) return;
  const { values, positionals } = read;
  if (positionals.length !== 1) throw new CommandError('give one file to take in (--help tells more)');
  const [file] = positionals;
  const fd = opened(file);
  const found = fstatSync(fd);
  if (!found.isFile()) throw new CommandError(`${file}: is a folder`);
  const services = await openServices(readConfig(process.env));
  const progress = new ProgressLine();
  let done = 0;
  try {
    await bringUpToDate(services.sequelize);
    const count = new Transform({
      transform(chunk: Buffer, _encoding, next) {
        done += chunk.length;
        progress.say(`${megabytes(done)} of ${megabytes(found.size)}`);
        next(null, chunk);
      },
    });
    const bytes = createReadStream(file, { fd });
    bytes.once('error', error => count.destroy(error));
    const taken = await takeIn(services, bytes.pipe(count));
    progress.clear();
    const titles = taken.series.map(s => s.title).join(', ');
    process.stdout.write(
      values.json
        ? `${JSON.stringify(taken)}\n`
        : `${taken.series.length} series (${titles}), ${taken.blobs} files, ${taken.rows} rows: each as its hash says\n`,
    );
  } catch (error) {
    progress.clear();
    if (error instanceof ArchiveError) throw new CommandError(`${file}: ${error.message}`);
    throw error;
  } finally {
    await services.close();
  }
}

await runCommand(restore);
