import { existsSync, linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PlainError } from '../ensure.mjs';

/** One server a data folder: whoever holds it is written down, by process and the time that it began. */

/** When a process began, in clock ticks since the machine did; null where there is none. Source: proc(5), stat, field 22. */
function begun(pid) {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(text.slice(text.lastIndexOf(')') + 2).split(' ')[19]);
  } catch {
    return null;
  }
}

const holds = text => {
  try {
    const { pid, since } = JSON.parse(text);
    return begun(pid) === since ? pid : null;
  } catch {
    return null;
  }
};

/**
 * Holds a folder for this process.
 * @returns a function that lets it go
 * Throws a PlainError where a living process holds it.
 */
export function holdFolder(home) {
  mkdirSync(home, { recursive: true });
  const file = join(home, 'held-by');
  const mine = `${file}.${process.pid}`;
  writeFileSync(mine, JSON.stringify({ pid: process.pid, since: begun(process.pid) }));
  try {
    for (let tries = 0; tries < 20; tries++) {
      try {
        // Whole or not at all, and never over another's.
        linkSync(mine, file);
        return () => {
          if (existsSync(file) && holds(readFileSync(file, 'utf8')) === process.pid) rmSync(file);
        };
      } catch (error) {
        if (error.code !== 'EEXIST') throw error;
      }
      let text;
      try {
        text = readFileSync(file, 'utf8');
      } catch {
        continue;
      }
      const other = holds(text);
      if (other !== null) {
        throw new PlainError(
          `Another Lamp Wash (process ${other}) already works on ${home}. Stop it, or set LAMPWASH_HOME to another folder.`,
        );
      }
      // Left by a process that is gone. Taken away by its new name, so that nobody else's goes with it.
      const gone = `${mine}.gone`;
      try {
        renameSync(file, gone);
        if (holds(readFileSync(gone, 'utf8')) !== null) linkSync(gone, file);
      } catch {
        // Somebody else was quicker.
      }
      rmSync(gone, { force: true });
    }
  } finally {
    rmSync(mine, { force: true });
  }
  throw new PlainError(`${home} cannot be held: remove ${file} and start again.`);
}
