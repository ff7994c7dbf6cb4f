import { execFile } from 'node:child_process';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';

/**
 * ExifTool: reads and writes what all kinds of picture files tell beside their pixels. It comes as a package, and needs Perl, which Debian
 * always has.
 */

const run = promisify(execFile);
const require = createRequire(import.meta.url);

/** The program's own file. */
const tool = () => join(dirname(require.resolve('exiftool-vendored.pl/package.json')), 'bin/exiftool');

/** So long may it take; a file of hundreds of megabytes is written anew. */
const MOST_MS = 120_000;

/**
 * Runs it. Throws an Error with `stderr` where it fails.
 * @param most bytes that it may answer
 */
export async function exiftool(options: readonly string[], most = 1 << 20): Promise<Buffer> {
  const { stdout } = await run('perl', [tool(), ...options], {
    timeout: MOST_MS,
    maxBuffer: most,
    encoding: 'buffer',
  });
  return stdout;
}

/** Bytes that stand in a file under a name of its metadata; null where they do not. */
export async function embedded(path: string, name: string, most: number): Promise<Buffer | null> {
  try {
    const bytes = await exiftool(['-b', `-${name}`, path], most);
    return bytes.length ? bytes : null;
  } catch {
    return null;
  }
}
