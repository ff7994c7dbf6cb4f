import { TILE } from '../../contract/limits';
import { sizeAt } from '../../core/frame/geometry';
import { readRange, readShared, type FileCache } from './cache';
import { decodePicture, isWide, resizePixels, widen, type Decoded, type Pixels } from './decode';
import { inspect, type PictureFacts } from './inspect';

/** What is needed to find a photograph's pixels. */
export interface PictureSource extends PictureFacts {
  sha256: string;
}

/**
 * The long edge that a smaller size is made from: the smallest halving of the full size that is still at least
 * twice as large, so that every size has one ancestry; the full size where there is none.
 */
export function parentEdge(full: number, longEdge: number): number {
  let edge = full;
  while (Math.ceil(edge / 2) >= longEdge * 2) edge = Math.ceil(edge / 2);
  return edge;
}

/** Makes a smaller picture from a full one, by the same ancestry as the store's, kept nowhere. */
export async function smaller(
  full: Pixels,
  longEdge: number,
  resize: typeof resizePixels = resizePixels,
): Promise<Pixels> {
  const most = Math.max(full.width, full.height);
  if (longEdge >= most) return full;
  const from = await smaller(full, parentEdge(most, longEdge), resize);
  const { width, height } = sizeAt(full, longEdge);
  return resize(from, width, height);
}

/** What was found in one photograph: kept as long as there is room, and found again where it is not. */
export interface FoundStore {
  recall: (name: string) => Promise<Uint8Array | null>;
  keep: (name: string, packed: Uint8Array) => Promise<void>;
}

/** The heavy work of a store. */
export interface PictureWork {
  inspect: (path: string, page?: number) => Promise<PictureFacts>;
  decode: (path: string, facts: PictureFacts) => Promise<Decoded>;
  resize: (pixels: Pixels, width: number, height: number) => Promise<Pixels>;
}

/** The size of the full picture, as a key. */
const FULL = 'full';
/** The key of a size of a picture, or of something found in it: of its page, where its file has several. */
const keyOf = ({ page }: PictureSource, what: number | string): string =>
  page ? `pixels 6 page ${page} ${what}` : `pixels 6 ${what}`;
/** Halvings are made ahead down to about this long edge. */
const SMALLEST_HALVING = 640;

/** Bytes of whole rows that are read at once, where a part of each is wanted: many small reads cost more. */
const AT_ONCE = 12 * 1024 * 1024;

/** Runs one heavy piece of work at a time, so that many imports do not fill the memory. */
function oneAtATime() {
  let last: Promise<unknown> = Promise.resolve();
  return <T>(work: () => Promise<T>): Promise<T> => {
    const next = last.then(work, work);
    last = next.catch(() => undefined);
    return next;
  };
}

/**
 * The pixels of originals at any size, from a cache on disk. The full size is decoded once; smaller sizes
 * are taken from halvings of it, so that screen and file, asking for the same size, get the same numbers.
 */
export class PictureStore {
  private readonly inTurn = oneAtATime();
  private readonly warming = new Set<Promise<void>>();
  private closed = false;

  /**
   * @param original gives a path at which an original's bytes can be read
   * @param work decodes and resizes: in threads, where somebody else waits for this one
   */
  constructor(
    private readonly cache: FileCache,
    private readonly original: (sha256: string) => Promise<string>,
    private readonly work: PictureWork = { inspect, decode: decodePicture, resize: resizePixels },
  ) {}

  /** What a file says of one of its pages. Throws a PictureError. */
  inspect(path: string, page?: number): Promise<PictureFacts> {
    return this.work.inspect(path, page);
  }

  /**
   * Decodes a file that is not in the database yet, and keeps its pixels; what is wrong with its data, or null. Throws a
   * PictureError.
   */
  admit(source: PictureSource, path: string): Promise<string | null> {
    return this.inTurn(async () => {
      const { codes, damage } = await this.work.decode(path, source);
      await this.cache.put(source.sha256, keyOf(source, FULL), bytesOf(codes));
      return damage;
    });
  }

  /** Makes the halvings that smaller sizes are taken from, ahead of their use, until the store closes. */
  async warm(source: PictureSource): Promise<void> {
    const work = this.halve(source);
    this.warming.add(work);
    try {
      await work;
    } finally {
      this.warming.delete(work);
    }
  }

  private async halve(source: PictureSource): Promise<void> {
    let edge = Math.max(source.width, source.height);
    while (edge > SMALLEST_HALVING && !this.closed) {
      edge = Math.ceil(edge / 2);
      await this.fileAt(source, edge);
    }
  }

  /** Starts nothing ahead any more, and waits for what is being made, so that its folder can go. */
  async close(): Promise<void> {
    this.closed = true;
    await Promise.allSettled(this.warming);
  }

  /** The whole picture at a long edge. Sizes at or beyond the full size give the full size. */
  async pixels(source: PictureSource, longEdge: number): Promise<Pixels> {
    const { width, height } = sizeAt(source, longEdge);
    const bytes = await readShared(await this.fileAt(source, longEdge));
    const wide = !this.isFull(source, longEdge) || isWide(source);
    return { width, height, codes: wide ? new Uint16Array(bytes) : new Uint8Array(bytes) };
  }

  /** One tile at a long edge, as 16-bit codes; empty where the picture has no such tile. */
  async tile(source: PictureSource, longEdge: number, column: number, row: number): Promise<Uint16Array> {
    const { width, height } = sizeAt(source, longEdge);
    const x = column * TILE;
    const y = row * TILE;
    if (x >= width || y >= height) return new Uint16Array(0);
    const path = await this.fileAt(source, longEdge);
    const wide = !this.isFull(source, longEdge) || isWide(source);
    const unit = wide ? 6 : 3;
    const length = Math.min(TILE, width - x) * unit;
    const rows = Math.min(TILE, height - y);
    const rowBytes = width * unit;
    const bytes =
      rows * rowBytes <= AT_ONCE
        ? cutRows(
            await readRange(path, [{ at: y * rowBytes, length: rows * rowBytes }]),
            rowBytes,
            x * unit,
            length,
          )
        : await readRange(
            path,
            Array.from({ length: rows }, (_, i) => ({ at: (y + i) * rowBytes + x * unit, length })),
          );
    return wide ? new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2) : widen(bytes);
  }

  /** What was found in a photograph, by the names that finders have for it, packed. */
  foundIn(source: PictureSource): FoundStore {
    const keyOfFound = (name: string) => keyOf(source, `found ${name}`);
    return {
      recall: name => this.cache.bytes(source.sha256, keyOfFound(name)),
      keep: (name, packed) => this.cache.put(source.sha256, keyOfFound(name), packed),
    };
  }

  private isFull(source: PictureSource, longEdge: number): boolean {
    return longEdge >= Math.max(source.width, source.height);
  }

  private async fileAt(source: PictureSource, longEdge: number): Promise<string> {
    const full = Math.max(source.width, source.height);
    if (this.isFull(source, longEdge)) {
      return this.cache.file(source.sha256, keyOf(source, FULL), () =>
        this.inTurn(async () => {
          const path = await this.original(source.sha256);
          return bytesOf((await this.work.decode(path, source)).codes);
        }),
      );
    }
    return this.cache.file(source.sha256, keyOf(source, longEdge), async () => {
      const from = await this.pixels(source, parentEdge(full, longEdge));
      const { width, height } = sizeAt(source, longEdge);
      return bytesOf((await this.work.resize(from, width, height)).codes);
    });
  }
}

/** A part of each row of some. */
function cutRows(bytes: Buffer, row: number, from: number, length: number): Buffer {
  if (length === row) return bytes;
  const out = Buffer.allocUnsafe((bytes.length / row) * length);
  for (let at = 0, to = 0; at < bytes.length; at += row, to += length) {
    bytes.copy(out, to, at + from, at + from + length);
  }
  return out;
}

function bytesOf(codes: Uint8Array | Uint16Array): Uint8Array {
  return new Uint8Array(codes.buffer, codes.byteOffset, codes.byteLength);
}
