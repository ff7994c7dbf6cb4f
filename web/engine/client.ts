import { transfer, wrap, type Remote } from 'comlink';
import type { Stroke } from '../../core/settings/fields';
import type { Reading, ShowRequest, Shown } from './screen';
import type { Engine } from './worker';

function start(): Remote<Engine> {
  return wrap<Engine>(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' }));
}

/** The worker that draws the large picture: one for the whole visit, so that tiles and tables are kept. */
const large = start();
/** The worker that makes small pictures, apart from it: started when the large picture is drawn. */
let small: Remote<Engine> | undefined;

let largeShown: () => void = () => undefined;
/** Resolves when the large picture has first been drawn, or after a moment where there is none. */
const afterLarge = new Promise<void>(done => {
  largeShown = done;
  setTimeout(done, 3000);
});

/** Makes small pictures, once the large one no longer waits. */
export async function smallPictures(): Promise<{ engine: Remote<Engine> }> {
  await afterLarge;
  small ??= start();
  // Wrapped, since a remote engine looks like a promise to await.
  return { engine: small };
}

/** A stroke that is under way. */
interface Painting {
  serial: number;
  base: ShowRequest;
  area: string;
  stroke: Stroke;
}

/**
 * The drawing of one canvas. One request is under way at a time; of those that come meanwhile only the
 * newest is kept, so the picture always goes to the newest state and stale work is never begun.
 */
export class PictureEngine {
  private waiting: ShowRequest | Painting | null = null;
  /** What a stroke that is under way is painted on, where the worker has it. */
  private base: ShowRequest | null = null;
  private busy = false;
  private closed = false;
  private ready: Promise<void> = Promise.resolve();

  constructor(
    private readonly onShown: (request: { serial: number }, shown: Shown) => void,
    private readonly onError: (error: Error) => void,
  ) {}

  attach(canvas: HTMLCanvasElement): void {
    const offscreen = canvas.transferControlToOffscreen();
    this.ready = large.attach(transfer(offscreen, [offscreen]));
  }

  show(request: ShowRequest): void {
    this.waiting = request;
    if (!this.busy) void this.work();
  }

  /** Shows a stroke that is under way on a picture; the same picture for all of a stroke. */
  paint(base: ShowRequest, serial: number, area: string, stroke: Stroke): void {
    this.waiting = { base, serial, area, stroke };
    if (!this.busy) void this.work();
  }

  read(x: number, y: number): Promise<Reading | null> {
    return large.read(x, y);
  }

  close(): void {
    this.waiting = null;
    this.closed = true;
  }

  private async draw(request: ShowRequest | Painting): Promise<Shown> {
    if (!('stroke' in request)) {
      this.base = null;
      return large.show(request);
    }
    const { serial, base, area, stroke } = request;
    const isNew = this.base !== base;
    this.base = base;
    return large.showStroke({ serial, base: isNew ? base : null, area, stroke });
  }

  private async work(): Promise<void> {
    this.busy = true;
    await this.ready;
    while (this.waiting) {
      const request = this.waiting;
      this.waiting = null;
      try {
        const shown = await this.draw(request);
        largeShown();
        if (!this.closed) this.onShown(request, shown);
      } catch (error) {
        if (!this.closed) this.onError(error as Error);
      }
    }
    this.busy = false;
  }
}
