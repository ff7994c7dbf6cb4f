import { statfs } from 'node:fs/promises';
import { setTimeout as after } from 'node:timers/promises';

/** The disk that the data folder lies on. */

/** Bytes that are left to the database, which must be able to write what it has promised: a few of its log's files. */
const RESERVE = 256 * 1024 * 1024;
/** On a small disk, this share of it. */
const LEAST_SHARE = 0.1;

/** There is no room for something; what is told is that the disk is full. */
export class DiskFull extends Error {
  readonly code = 'ENOSPC';
  constructor() {
    super('the disk is full');
  }
}

/** Free bytes beyond what is left to the database; negative where that is touched. */
async function room(folder: string): Promise<number> {
  const { bavail, blocks, bsize } = await statfs(folder);
  return bavail * bsize - Math.min(RESERVE, LEAST_SHARE * blocks * bsize);
}

/** Throws DiskFull where there is no room for some bytes on the disk of a folder that is there. */
export async function needRoom(folder: string, bytes: number): Promise<void> {
  if ((await room(folder)) < bytes) throw new DiskFull();
}

/** Milliseconds after which one that asks about the disk is told how it was. */
const PATIENCE = 100;

/**
 * Tells whether the disk of a folder is as full as it may be. Where the answer is late, since every thread of the
 * system's has a picture in hand, it tells what was found last.
 */
export function followDisk(folder: string): () => Promise<boolean> {
  let found = false;
  return () => {
    const asked = room(folder).then(
      bytes => (found = bytes <= 0),
      () => false,
    );
    return Promise.race([asked, after(PATIENCE).then(() => found)]);
  };
}
