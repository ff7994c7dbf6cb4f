import { setMaxListeners } from 'node:events';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import type { Treatment } from '../../core/treatment/schema';
import type { Pixels } from '../pictures/decode';
import type { Band } from './band-worker';

/** Pixels of a band: enough to be worth sending, few enough for progress and for stopping. */
const BAND_PIXELS = 1 << 20;

export interface RenderJob {
  pixels: Pixels;
  grey: boolean;
  treatment: Treatment;
  bits: 8 | 16;
  signal?: AbortSignal;
  /** Called with the share that is done, 0..1. */
  onProgress?: (done: number) => void;
}

/** Renders treatments in worker threads, one a core, each a band of rows at a time. */
export class Renderer {
  private readonly pool: Piscina<Band, void>;

  /** @param bandWorker path of the built script that a thread runs */
  constructor(bandWorker: string) {
    this.pool = new Piscina<Band, void>({
      filename: bandWorker,
      minThreads: 1,
      maxThreads: availableParallelism(),
      idleTimeout: 60_000,
    });
  }

  /** @returns RGB codes of the bits asked for, in shared memory */
  async render({ pixels, grey, treatment, bits, signal, onProgress }: RenderJob) {
    const { width, height } = pixels;
    const count = width * height * 3;
    const narrow = pixels.codes instanceof Uint8Array;
    const codes = new SharedArrayBuffer(count * (narrow ? 1 : 2));
    if (narrow) new Uint8Array(codes).set(pixels.codes);
    else new Uint16Array(codes).set(pixels.codes);
    const out = new SharedArrayBuffer(count * (bits / 8));
    const rowsEach = Math.max(1, Math.min(Math.ceil(height / 2), Math.floor(BAND_PIXELS / width)));
    // Every band listens for the stop.
    if (signal) setMaxListeners(0, signal);
    const bands: Promise<void>[] = [];
    let done = 0;
    for (let fromRow = 0; fromRow < height; fromRow += rowsEach) {
      const rows = Math.min(rowsEach, height - fromRow);
      const band = { codes, narrow, out, bits, width, height, fromRow, rows, grey, treatment };
      const running = this.pool.run(band, { signal });
      bands.push(
        running.then(() => {
          done += rows;
          onProgress?.(done / height);
        }),
      );
    }
    await Promise.all(bands);
    return bits === 8 ? new Uint8Array(out) : new Uint16Array(out);
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
