import { transfer, type Remote } from 'comlink';
import type { Stroke } from '../../core/settings/fields';
import { EngineDied, livingEngine, type LivingEngine } from './living';
import type { Reading, ShowRequest, Shown } from './screen';
import type { Engine } from './worker';

/** What treatments carry and the server does not have yet: given to each engine. */
const given = new Map<string, Uint8Array>();
const giveAll = (engine: Remote<Engine>) =>
  Promise.all([...given].map(([sha256, bytes]) => engine.hold(sha256, bytes)));

/** The worker that draws the large picture: one for the whole visit, so that tiles and tables are kept. */
const large = livingEngine(giveAll);
/** The worker that makes small pictures, apart from it: started when the large picture is drawn. */
let small: LivingEngine | undefined;

/** Gives bytes that treatments refer to, to the engines that are there and to those to come. */
export async function giveToEngines(sha256: string, bytes: Uint8Array): Promise<void> {
  given.set(sha256, bytes);
  await Promise.all([large, small].map(each => each?.engine.hold(sha256, bytes)));
}

let largeShown: () => void = () => undefined;
/** Resolves when the large picture has first been drawn, or after a moment where there is none. */
const afterLarge = new Promise<void>(done => {
  largeShown = done;
  setTimeout(done, 3000);
});

/** Makes small pictures, once the large one no longer waits. */
export async function smallPictures(): Promise<{ engine: Remote<Engine> }> {
  await afterLarge;
  small ??= livingEngine(giveAll);
  return { engine: small.engine };
}

/** A stroke that is under way. */
interface Painting {
  serial: number;
  base: ShowRequest;
  area: string;
  stroke: Stroke;
}

let views = 0;

/**
 * The drawing of one canvas, which is one view of one photograph. One request is under way at a time; of those that come meanwhile only the
 * newest is kept, so the picture always goes to the newest state and stale work is never begun.
 */
export class PictureEngine {
  private waiting: ShowRequest | Painting | null = null;
  /** What a stroke that is under way is painted on, where the worker has it. */
  private base: ShowRequest | null = null;
  private busy = false;
  private closed = false;
  private readonly id = ++views;
  private readonly ready: Promise<void>;
  private readonly forget: () => void;

  /** @param onLost told when the worker has died with the canvas: a new view is needed, on a new canvas */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly onShown: (request: { serial: number }, shown: Shown) => void,
    private readonly onError: (error: Error) => void,
    onLost: () => void,
  ) {
    const offscreen = canvas.transferControlToOffscreen();
    this.ready = large.once.attach(this.id, transfer(offscreen, [offscreen]));
    this.ready.catch(() => undefined);
    this.forget = large.onRestart(() => {
      if (!this.closed) onLost();
    });
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
    return large.once.read(this.id, x, y).catch(() => null);
  }

  close(): void {
    this.waiting = null;
    this.closed = true;
    this.forget();
    void large.once.detach(this.id).catch(() => undefined);
  }

  private async draw(request: ShowRequest | Painting): Promise<Shown | null> {
    if (!('stroke' in request)) {
      this.base = null;
      return large.once.show(this.id, request);
    }
    const { serial, base, area, stroke } = request;
    const isNew = this.base !== base;
    this.base = base;
    return large.once.showStroke(this.id, { serial, base: isNew ? base : null, area, stroke });
  }

  private async work(): Promise<void> {
    this.busy = true;
    while (this.waiting) {
      const request = this.waiting;
      this.waiting = null;
      try {
        await this.ready;
        const shown = await this.draw(request);
        largeShown();
        if (shown && !this.closed) this.onShown(request, shown);
      } catch (error) {
        // Of a death the page is told by itself, and begins anew.
        if (!this.closed && !(error instanceof EngineDied)) this.onError(error as Error);
      }
    }
    this.busy = false;
  }
}
