import { execFile, spawn, type ChildProcessWithoutNullStreams } from 'node:child_process';
import { createRequire } from 'node:module';
import type { Socket } from 'node:net';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import PQueue from 'p-queue';

/**
 * ExifTool: reads and writes what all kinds of picture files tell beside their pixels. It comes as a package, and needs Perl, which Debian
 * always has. Reading its modules takes most of a second, so it stays open for what comes next
 * (its documentation: -stay_open, -execute, -echo3, -echo4).
 */

const require = createRequire(import.meta.url);

/** The program's own file. */
const tool = () => join(dirname(require.resolve('exiftool-vendored.pl/package.json')), 'bin/exiftool');

/** So long may it take; a file of hundreds of megabytes is written anew. */
const MOST_MS = 120_000;
/** Memory of one, in KiB: a file that wants more ends it, and nothing else. */
const MOST_KIB = 2 * 1024 ** 2;
/** At once; and one is given up for a new one after so many files. */
const MOST_OPEN = 2;
const MOST_FILES = 500;

/** It sees nothing of the server's own surroundings: no passphrase, no address of a database. */
const bare = { env: { PATH: process.env.PATH ?? '/usr/bin:/bin', LANG: 'C.UTF-8' } };
const limited = (options: readonly string[]): [string, string[]] => [
  'sh',
  ['-c', `ulimit -v ${MOST_KIB}; exec perl "$@"`, 'exiftool', tool(), ...options],
];

interface Open {
  child: ChildProcessWithoutNullStreams;
  /** Files that it has had. */
  files: number;
}

/** Those that wait for a file. */
const idle: Open[] = [];
const queue = new PQueue({ concurrency: MOST_OPEN });

function open(): Open {
  const child = spawn(...limited(['-stay_open', 'True', '-@', '-']), bare);
  const opened = { child, files: 0 };
  child.once('exit', () => {
    const at = idle.indexOf(opened);
    if (at >= 0) idle.splice(at, 1);
  });
  // A write to one that has just ended is told by its end.
  child.stdin.on('error', () => undefined);
  keep(opened, false);
  return opened;
}

/** Whether this process stays for its sake: as long as it has a file, and no longer. It ends by itself when this process has. */
function keep({ child }: Open, yes: boolean): void {
  // The streams of a child are sockets, which Node's types do not say.
  const streams = [child.stdin, child.stdout, child.stderr] as (object &
    Partial<Pick<Socket, 'ref' | 'unref'>>)[];
  for (const part of [child, ...streams]) {
    if (yes) part.ref?.();
    else part.unref?.();
  }
}

/** What it answers to one list of options. */
function answer(opened: Open, options: readonly string[], most: number): Promise<Buffer> {
  const { child } = opened;
  const number = ++opened.files;
  const ended = `{ended ${number}}`;
  const told = new RegExp(`\\{status (\\d+)\\}\\r?\\n\\{ready${number}\\}\\r?\\n$`);
  return new Promise((done, fail) => {
    const out: Buffer[] = [];
    let bytes = 0;
    let said = '';
    const over = (work: () => void) => {
      clearTimeout(timer);
      child.stdout.off('data', onOut);
      child.stderr.off('data', onError);
      child.off('exit', onExit);
      work();
    };
    const giveUp = (why: string) => over(() => (child.kill('SIGKILL'), fail(new Error(why))));
    const look = () => {
      const at = said.indexOf(ended);
      const tail = Buffer.concat(out.slice(-3)).subarray(-64).toString('latin1');
      const found = at < 0 ? null : told.exec(tail);
      if (!found) return;
      over(() => {
        const status = Number(found[1]);
        const stderr = said.slice(0, at).trim();
        if (status === 0) done(Buffer.concat(out).subarray(0, bytes - found[0].length));
        else fail(Object.assign(new Error(stderr || `ExifTool ended with ${status}`), { stderr }));
      });
    };
    const onOut = (data: Buffer) => {
      out.push(data);
      bytes += data.length;
      if (bytes > most + 64) giveUp('ExifTool answered more than was asked for');
      else look();
    };
    const onError = (data: Buffer) => {
      said = (said + data.toString()).slice(-65_536);
      look();
    };
    const onExit = () =>
      over(() => fail(Object.assign(new Error(said || 'ExifTool ended'), { stderr: said })));
    const timer = setTimeout(() => giveUp('ExifTool took too long'), MOST_MS);
    child.stdout.on('data', onOut);
    child.stderr.on('data', onError);
    child.once('exit', onExit);
    const after = ['-echo3', '{status ${status}}', '-echo4', ended, `-execute${number}`];
    child.stdin.write(`${[...options, ...after].join('\n')}\n`);
  });
}

/** One that is started for a single file: where an option cannot stand on a line of its own. */
async function once(options: readonly string[], most: number): Promise<Buffer> {
  const settings = { ...bare, timeout: MOST_MS, maxBuffer: most, encoding: 'buffer' as const };
  return (await promisify(execFile)(...limited(options), settings)).stdout;
}

const isLine = (option: string) =>
  /^-?[^\s#][^\n\r]*$/.test(option) && !/^-[-\w:]+#?\s*[-+<]?= /.test(option);

/**
 * Runs it. Throws an Error with `stderr` where it fails.
 * @param most bytes that it may answer
 */
export function exiftool(options: readonly string[], most = 1 << 20): Promise<Buffer> {
  if (!options.every(isLine)) return once(options, most);
  return queue.add(async () => {
    const opened = idle.pop() ?? open();
    keep(opened, true);
    try {
      return await answer(opened, options, most);
    } finally {
      keep(opened, false);
      const { child } = opened;
      if (opened.files >= MOST_FILES) child.stdin.end();
      else if (child.exitCode === null && child.signalCode === null && !child.killed) idle.push(opened);
    }
  }) as Promise<Buffer>;
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
