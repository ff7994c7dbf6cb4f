import { existsSync, linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PlainError } from './plain-error.mjs';

/** One process at a time in a folder: whoever holds it is written down, by its number and the time that it began. */

/** When a process began, in clock ticks since the machine did; null where there is none. Source: proc(5), stat, field 22. */
function begun(pid) {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(text.slice(text.lastIndexOf(')') + 2).split(' ')[19]);
  } catch {
    return null;
  }
}

/** The process that a note names, where it lives; null where it does not. */
function holderOf(text) {
  try {
    const { pid, since } = JSON.parse(text);
    return begun(pid) === since ? pid : null;
  } catch {
    return null;
  }
}

/**
 * Holds a folder for this process, which may hold others too.
 * @returns a function that lets it go; or the number of the process that holds it
 * Throws a PlainError where neither can be told.
 */
export function tryToHold(folder) {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'held-by');
  const mine = `${file}.${process.pid}`;
  writeFileSync(mine, JSON.stringify({ pid: process.pid, since: begun(process.pid) }));
  try {
    for (let tries = 0; tries < 20; tries++) {
      try {
        // Whole or not at all, and never over another's.
        linkSync(mine, file);
        return () => {
          if (existsSync(file) && holderOf(readFileSync(file, 'utf8')) === process.pid) rmSync(file);
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
      const other = holderOf(text);
      if (other !== null) return other;
      // Left by a process that is gone. Taken away by its new name, so that nobody else's goes with it.
      const gone = `${mine}.gone`;
      try {
        renameSync(file, gone);
        if (holderOf(readFileSync(gone, 'utf8')) !== null) linkSync(gone, file);
      } catch {
        // Somebody else was quicker.
      }
      rmSync(gone, { force: true });
    }
  } finally {
    rmSync(mine, { force: true });
  }
  throw new PlainError(`${folder} cannot be held: remove ${file} and start again.`);
}

/** Holds a data folder, or says who does. Throws a PlainError. */
export function holdData(home) {
  const held = tryToHold(home);
  if (typeof held === 'function') return held;
  throw new PlainError(
    `Another Lamp Wash (process ${held}) already works on ${home}. Stop it, or set LAMPWASH_HOME to another folder.`,
  );
}

const pause = ms => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);

/** Does work in a folder while no other process works there; waits for one that does. */
export function inTurn(folder, work) {
  let held = tryToHold(folder);
  while (typeof held !== 'function') {
    pause(200);
    held = tryToHold(folder);
  }
  try {
    return work();
  } finally {
    held();
  }
}
