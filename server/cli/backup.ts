import { createWriteStream } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { archiveOf } from '../archive/write';
import { readConfig } from '../config';
import { bringUpToDate } from '../data/migrate';
import { connect, Series } from '../data/models';
import { CommandError, readArguments, readingProblem, runCommand } from './command';
import { megabytes, ProgressLine } from './progress';

const HELP = `Writes the whole shelf, or one series, to one file, also while Lamp Wash is running.

  npm run --silent backup -- FILE.tar [--series TITLE] [--over] [--json]

  FILE.tar    the file to write; in it every original and all rows stand under their hashes
  --series    only the series of this title, as a package to give away
  --over      write over a file that is there
  --json      say what was written as one line of JSON

Ends with 0, or with 2 and one line that says what is wrong; then nothing is written.
`;

async function backup(): Promise<void> {
  const read = readArguments(
    { series: { type: 'string' }, over: { type: 'boolean' }, json: { type: 'boolean' } },
    HELP,
  );
  if (!read) return;
  const { values, positionals } = read;
  if (positionals.length !== 1) throw new CommandError('give one file to write (--help tells more)');
  const [file] = positionals;
  if (!values.over && (await stat(file).catch(() => null))) {
    throw new CommandError(`${file}: is there already; give another, or --over`);
  }
  const { databaseUrl } = readConfig(process.env);
  const sequelize = connect(databaseUrl);
  const part = `${file}.${process.pid}.part`;
  const progress = new ProgressLine();
  let [written, whole, blobs] = [0, 0, 0];
  try {
    await bringUpToDate(sequelize);
    const series = await chosen(values.series);
    const archive = archiveOf(sequelize, series, size => {
      whole = size.bytes;
      blobs = size.blobs;
    });
    const count = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        written += chunk.length;
        progress.say(`${megabytes(written)} of about ${megabytes(Math.max(whole, written))}`);
        done(null, chunk);
      },
    });
    await pipeline(archive, count, createWriteStream(part, { flush: true }));
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${file}: ${readingProblem(error)}`);
  } finally {
    progress.clear();
    await sequelize.close();
  }
  process.stdout.write(
    values.json
      ? `${JSON.stringify({ file, bytes: written, originals: blobs })}\n`
      : `${file}: ${megabytes(written)}, ${blobs} files in it\n`,
  );
}

/** The id of the series of a title; null for all. */
async function chosen(title: string | undefined): Promise<string | null> {
  if (title === undefined) return null;
  const found = await Series.findAll({ where: { title, deletedAt: null } });
  if (found.length === 1) return found[0].id;
  throw new CommandError(
    found.length
      ? `--series: ${found.length} series are called ${title}; name them apart`
      : `--series: none is called ${title}`,
  );
}

await runCommand(backup);
