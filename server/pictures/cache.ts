import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { needRoom } from './disk';

/** What a prune keeps. */
export interface Pruning {
  /** Originals that there are; files of others go. Without it none goes for that. */
  kept?: ReadonlySet<string>;
  /** Milliseconds for which a file is left alone whatever it is of. */
  young?: number;
}

/**
 * Files that can be computed or fetched again, in one flat folder: each is of an original, by its SHA-256, and has a key.
 * A file appears whole or not at all, and two requests for the same missing file make it once.
 */
export class FileCache {
  private readonly making = new Map<string, Promise<string>>();

  /** @param most bytes that it may hold before the files longest unused are dropped */
  constructor(
    private readonly folder: string,
    private readonly most: number,
  ) {}

  /** The path of the file of an original for a key, made by `make` where it is missing. */
  async file(
    sha256: string,
    key: string,
    make: () => Promise<Uint8Array | AsyncIterable<Uint8Array>>,
  ): Promise<string> {
    const path = this.pathOf(sha256, key);
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

  private pathOf(sha256: string, key: string): string {
    return join(this.folder, `${sha256}-${createHash('sha256').update(key).digest('hex').slice(0, 24)}`);
  }

  /** Puts a file in, over one that is there. */
  async put(sha256: string, key: string, bytes: Uint8Array): Promise<void> {
    await this.write(this.pathOf(sha256, key), bytes);
  }

  /** The bytes of the file of an original for a key; null where there is none. */
  async bytes(sha256: string, key: string): Promise<Buffer | null> {
    const path = this.pathOf(sha256, key);
    if (!(await this.isThere(path))) return null;
    // One that is dropped just now is as good as none.
    return readFile(path).catch(() => null);
  }

  /** Whether there is a file; it counts as used. */
  private async isThere(path: string): Promise<boolean> {
    const now = new Date();
    return utimes(path, now, now).then(
      () => true,
      () => false,
    );
  }

  private async find(
    path: string,
    make: () => Promise<Uint8Array | AsyncIterable<Uint8Array>>,
  ): Promise<string> {
    if (!(await this.isThere(path))) await this.write(path, await make());
    return path;
  }

  private async write(path: string, bytes: Uint8Array | AsyncIterable<Uint8Array>): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    await needRoom(this.folder, bytes instanceof Uint8Array ? bytes.length : 0);
    const part = `${path}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;
    try {
      await pipeline(Readable.from(bytes instanceof Uint8Array ? [bytes] : bytes), createWriteStream(part));
      await rename(part, path);
    } catch (error) {
      // A full disk is not made fuller by half a file.
      await rm(part, { force: true });
      throw error;
    }
  }

  /** Drops files of originals that are gone, parts left by a killed server, and the files longest unused until the rest fit. */
  async prune({ kept, young = 0 }: Pruning = {}): Promise<void> {
    const names = await readdir(this.folder).catch(() => []);
    const files = await Promise.all(
      names.map(async name => {
        const path = join(this.folder, name);
        const info = await stat(path).catch(() => null);
        const isOfNone = kept !== undefined && !kept.has(name.slice(0, 64));
        const isPart = name.endsWith('.part');
        return info?.isFile() && { path, size: info.size, used: info.mtimeMs, isUseless: isOfNone || isPart };
      }),
    );
    const known = files.filter(f => typeof f === 'object' && f !== null).sort((a, b) => b.used - a.used);
    const from = Date.now() - young;
    let held = 0;
    for (const f of known) {
      held += f.size;
      const isOver = held > this.most;
      if (isOver || (f.isUseless && f.used <= from)) {
        held -= f.size;
        await rm(f.path, { force: true });
      }
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
