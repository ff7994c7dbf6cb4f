import { createHash } from 'node:crypto';
import { mkdir, open, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Bytes that the cache may hold before the files longest unused are dropped. */
const MOST_BYTES = 12 * 1024 ** 3;

/**
 * Files that can be computed again, by key, in one flat folder. A file appears whole or not at all, and two
 * requests for the same missing file make it once.
 */
export class FileCache {
  private readonly making = new Map<string, Promise<string>>();

  constructor(private readonly folder: string) {}

  /** The path of the file for a key, made by `make` where it is missing. */
  async file(key: string, make: () => Promise<Uint8Array>): Promise<string> {
    const path = join(this.folder, createHash('sha256').update(key).digest('hex'));
    const running = this.making.get(path);
    if (running) return running;
    const work = this.find(path, make);
    this.making.set(path, work);
    try {
      return await work;
    } finally {
      this.making.delete(path);
    }
  }

  private async find(path: string, make: () => Promise<Uint8Array>): Promise<string> {
    const now = new Date();
    try {
      await utimes(path, now, now);
      return path;
    } catch {
      // Not there yet.
    }
    const bytes = await make();
    await mkdir(this.folder, { recursive: true });
    const part = `${path}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;
    await writeFile(part, bytes);
    await rename(part, path);
    return path;
  }

  /** Drops the files longest unused until the rest fit, and parts left by a killed server. */
  async prune(most = MOST_BYTES): Promise<void> {
    const names = await readdir(this.folder).catch(() => []);
    const files = await Promise.all(
      names.map(async name => {
        const path = join(this.folder, name);
        const info = await stat(path).catch(() => null);
        return info && { path, size: info.size, used: info.mtimeMs, part: name.endsWith('.part') };
      }),
    );
    const known = files.filter(f => f !== null).sort((a, b) => b.used - a.used);
    let held = 0;
    for (const f of known) {
      held += f.size;
      if (held > most || (f.part && Date.now() - f.used > 3_600_000)) await rm(f.path, { force: true });
    }
  }
}

/** Reads a run of bytes of a file. */
export async function readRange(path: string, ranges: { at: number; length: number }[]): Promise<Buffer> {
  const total = ranges.reduce((sum, r) => sum + r.length, 0);
  const out = Buffer.allocUnsafe(total);
  const handle = await open(path, 'r');
  try {
    let to = 0;
    for (const { at, length } of ranges) {
      const { bytesRead } = await handle.read(out, to, length, at);
      if (bytesRead !== length) throw new Error('a cached file is shorter than it should be');
      to += length;
    }
  } finally {
    await handle.close();
  }
  return out;
}

/** The bytes of a whole file, in memory that threads share. */
export async function readShared(path: string): Promise<SharedArrayBuffer> {
  const handle = await open(path, 'r');
  try {
    const { size } = await handle.stat();
    const bytes = new SharedArrayBuffer(size);
    const into = new Uint8Array(bytes);
    for (let at = 0; at < size;) {
      const { bytesRead } = await handle.read(into, at, Math.min(size - at, 1 << 28), at);
      if (!bytesRead) throw new Error('a cached file is shorter than it should be');
      at += bytesRead;
    }
    return bytes;
  } finally {
    await handle.close();
  }
}
