import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

/** Folders in which archives lie while they come in: each bears the number of the process that it is of. */

const NAME = /^archive-(\d+)-[0-9a-f-]+$/;

/** A folder's name for what is being taken in. */
export const newFolder = (within: string): string => join(within, `archive-${process.pid}-${randomUUID()}`);

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
};

/** Removes what processes have left that were killed while an archive came in. */
export async function removeLeft(within: string): Promise<void> {
  if (!existsSync(within)) return;
  for (const name of await readdir(within)) {
    const pid = name.startsWith('archive-') ? Number(NAME.exec(name)?.[1] ?? 0) : null;
    if (pid === null || (pid !== 0 && isAlive(pid))) continue;
    await rm(join(within, name), { recursive: true, force: true });
  }
}
