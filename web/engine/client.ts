import { transfer, wrap, type Remote } from 'comlink';
import type { Engine, Reading, ShowRequest, Shown } from './worker';

function start(): Remote<Engine> {
  return wrap<Engine>(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' }));
}

let forSmall: Remote<Engine> | undefined;

/** The worker that makes small pictures, apart from the one that draws the large one. */
export function smallPictures(): Remote<Engine> {
  forSmall ??= start();
  return forSmall;
}

/**
 * A worker with a canvas. One request is under way at a time; of those that come meanwhile only the newest
 * is kept, so the picture always goes to the newest state and stale work is never begun.
 */
export class PictureEngine {
  private readonly worker: Worker;
  private readonly engine: Remote<Engine>;
  private waiting: ShowRequest | null = null;
  private busy = false;

  constructor(
    private readonly onShown: (request: ShowRequest, shown: Shown) => void,
    private readonly onError: (error: Error) => void,
  ) {
    this.worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    this.engine = wrap<Engine>(this.worker);
  }

  attach(canvas: HTMLCanvasElement): void {
    const offscreen = canvas.transferControlToOffscreen();
    void this.engine.attach(transfer(offscreen, [offscreen]));
  }

  show(request: ShowRequest): void {
    this.waiting = request;
    if (!this.busy) void this.work();
  }

  read(x: number, y: number): Promise<Reading | null> {
    return this.engine.read(x, y);
  }

  close(): void {
    this.waiting = null;
    this.worker.terminate();
  }

  private async work(): Promise<void> {
    this.busy = true;
    while (this.waiting) {
      const request = this.waiting;
      this.waiting = null;
      try {
        this.onShown(request, await this.engine.show(request));
      } catch (error) {
        this.onError(error as Error);
      }
    }
    this.busy = false;
  }
}
