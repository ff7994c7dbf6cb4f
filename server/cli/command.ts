import { rename, rm, stat, writeFile } from 'node:fs/promises';
import { parseArgs, type ParseArgsConfig } from 'node:util';

/** What the commands share: options, files, and one line about what is wrong. It loads nothing, so that a command begins at once. */

/** An error that is told in one line, with exit code 2. */
export class CommandError extends Error {}

/** Some of several could not be made, each named already: exit code 1, and the others are written. */
export class SomeFailed extends Error {
  constructor(failed: number, of: number) {
    super(`${failed} of ${of} could not be made.`);
  }
}

type Options = NonNullable<ParseArgsConfig['options']>;

/** Reads the arguments; asking for help prints it and gives null. */
export function readArguments(options: Options, help: string) {
  let read;
  try {
    read = parseArgs({
      options: { ...options, help: { type: 'boolean', short: 'h' } },
      allowPositionals: true,
      strict: true,
    });
  } catch (error) {
    throw new CommandError(`${(error as Error).message.split('\n')[0]} (--help tells more)`);
  }
  if (read.values.help) {
    process.stdout.write(help);
    return null;
  }
  return { values: read.values as Record<string, string | undefined>, positionals: read.positionals };
}

/** A whole number from an option's text. */
export function wholeNumber(text: string, name: string, least: number, most: number): number {
  const value = /^\d+$/.test(text) ? Number(text) : NaN;
  if (!(value >= least && value <= most)) {
    throw new CommandError(`${name}: must be a whole number from ${least} to ${most}, not ${text}`);
  }
  return value;
}

/** Refuses to write over what is read, also where a link leads to it. */
export async function refuseOver(out: string, ...inputs: string[]): Promise<void> {
  const [written, ...read] = await Promise.all([out, ...inputs].map(path => stat(path).catch(() => null)));
  if (written && read.some(file => file?.dev === written.dev && file.ino === written.ino)) {
    throw new CommandError(`--out: ${out} is read here too; give another file`);
  }
}

/** Writes a file whole or not at all. */
export async function writeOut(out: string, data: string | Buffer): Promise<void> {
  const part = `${out}.${process.pid}.part`;
  try {
    await writeFile(part, data);
    await rename(part, out);
  } catch (error) {
    await rm(part, { force: true });
    throw new CommandError(`${out}: ${readingProblem(error)}`);
  }
}

/** Why a file could not be read or written, in plain words. */
export function readingProblem(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  const plain: Record<string, string> = {
    ENOENT: 'there is no such file or folder',
    EACCES: 'may not be read or written',
    EISDIR: 'is a folder',
    ENOTDIR: 'is not in a folder',
    ENOSPC: 'the disk is full',
  };
  return plain[code ?? ''] ?? message;
}

/** Runs a command and ends the process: 0, 1 where some of several failed, or 2 with one line on standard error. */
export async function runCommand(command: () => Promise<void>): Promise<never> {
  try {
    await command();
    process.exit(0);
  } catch (error) {
    const { message } = error as Error;
    process.stderr.write(`${message.replace(/\s*\n\s*/g, ' ')}\n`);
    process.exit(error instanceof SomeFailed ? 1 : 2);
  }
}
