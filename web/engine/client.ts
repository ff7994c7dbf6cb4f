import { transfer, type Remote } from 'comlink';
import type { Stroke } from '../../core/settings/fields';
import type { Treatment } from '../../core/treatment/treatment';
import { afterFirstPicture, pictureShown } from './first-picture';
import { EngineDied, livingEngine, type LivingEngine } from './living';
import type { Band, BandRequest } from './bands';
import type { Done, Piece, Share, ShowRequest, Shown } from './screen';
import { Sender, type Sent } from './sent-treatment';
import type { PictureInfo } from './tiles';
import type { Size } from './view';
import type { Engine } from './worker';

/** What treatments carry and the server does not have yet: given to each engine. */
const given = new Map<string, Uint8Array>();
const giveAll = (engine: Remote<Engine>) =>
  Promise.all([...given].map(([sha256, bytes]) => engine.hold(sha256, bytes)));

/** Workers that share the tiles of the large picture: as many as the machine has cores but one. */
const MOST_WORKERS = 8;
const workers = Math.min(MOST_WORKERS, Math.max(1, (navigator.hardwareConcurrency || 2) - 1));
/** One of them, and what it has been sent. */
interface LargeEngine extends LivingEngine {
  sender: Sender;
}
let started: readonly LargeEngine[] | undefined;
/** They begin with the first picture, and stay for the whole visit, so that tiles and tables are kept. */
const large = (): readonly LargeEngine[] =>
  (started ??= Array.from({ length: workers }, () => {
    const engine = livingEngine(giveAll);
    const sender = new Sender();
    // The first that hears of it: what is asked for again then is sent whole.
    engine.onRestart(() => sender.begin());
    return { ...engine, sender };
  }));
/** The worker that makes small pictures, apart from them: started when the large picture is drawn. */
let small: LivingEngine | undefined;

/** Lets bytes go that the server has by now: engines to come ask it for them. */
export const letGo = (sha256: string): void => void given.delete(sha256);

/** Gives bytes that treatments refer to, to the engines that are there and to those to come. */
export async function giveToEngines(sha256: string, bytes: Uint8Array): Promise<void> {
  given.set(sha256, bytes);
  await Promise.all([...(started ?? []), small].map(each => each?.engine.hold(sha256, bytes)));
}

/** Starts the workers of the large picture, ahead of it: they are ready when it is asked for. */
export const engineAhead = (): void => void large();

/** Makes small pictures, once the large one no longer waits. */
export async function smallPictures(): Promise<{ engine: Remote<Engine> }> {
  await afterFirstPicture();
  small ??= livingEngine(giveAll);
  return { engine: small.engine };
}

/** Makes a photograph ready for areas to be found in it: the first stroke then has its answer sooner. */
export function readyToFind(picture: PictureInfo): void {
  for (const { once } of large()) void once.readyFor(picture).catch(() => undefined);
}

interface SmallJob {
  of: [PictureInfo, Treatment, number, number, number];
  signal: AbortSignal;
  done: (bitmap: ImageBitmap) => void;
  failed: (error: unknown) => void;
}
const smallJobs: SmallJob[] = [];
/** How many small pictures each worker is making just now. */
const atSmall = new Map<LivingEngine, number>();
/** One that is made, and the next: whoever is done does not wait until this thread has heard of it. */
const MOST_AT_SMALL = 2;
/** Views whose large picture is being drawn. */
let drawing = 0;

/** Gives small pictures that wait to whoever is free: to the worker for them, and to those of the large picture while it rests. */
function giveSmall(): void {
  const makers = [small, ...(drawing === 0 ? large() : [])].filter(w => w !== undefined);
  for (let had = 0; had < MOST_AT_SMALL; had++) {
    for (const worker of makers.filter(w => (atSmall.get(w) ?? 0) === had)) {
      let job = smallJobs.shift();
      while (job?.signal.aborted) job = smallJobs.shift();
      if (!job) return;
      atSmall.set(worker, had + 1);
      const { of, done, failed } = job;
      worker.engine
        .picture(...of)
        .then(done, failed)
        .finally(() => {
          atSmall.set(worker, atSmall.get(worker)! - 1);
          giveSmall();
        });
    }
  }
}

/**
 * A small picture of a treatment, cut to fill width by height; in turn, unless it is no longer wanted.
 * @param shared how many of its first steps others that are asked for have as well
 */
export async function smallPicture(
  picture: PictureInfo,
  treatment: Treatment,
  width: number,
  height: number,
  signal: AbortSignal,
  shared = 0,
): Promise<ImageBitmap> {
  await smallPictures();
  return new Promise((done, failed) => {
    smallJobs.push({ of: [picture, treatment, width, height, shared], signal, done, failed });
    giveSmall();
  });
}

/**
 * Renders bands, each as soon as a worker is free.
 * @param onBand told of each as it comes
 */
export async function renderBands(
  requests: readonly BandRequest[],
  onBand: (index: number, band: Band) => void,
  signal: AbortSignal,
): Promise<void> {
  let next = 0;
  const work = async ({ engine }: LivingEngine) => {
    while (next < requests.length && !signal.aborted) {
      const index = next++;
      const made = await engine.band(requests[index]);
      if (made && !signal.aborted) onBand(index, made);
    }
  };
  await Promise.all(large().map(work));
}

/** A request as it goes to a worker. */
const sent = (which: number, request: ShowRequest): Sent<ShowRequest> => ({
  ...request,
  treatment: large()[which].sender.send(request.treatment),
});

/** A stroke that is under way. */
interface Painting {
  serial: number;
  content: number;
  base: ShowRequest;
  area: string;
  stroke: Stroke;
}

/** A picture that may be shown next, and as what. */
export interface Beside {
  picture: PictureInfo;
  treatment: Treatment;
}

let views = 0;
let works = 0;

/**
 * The rendering of one view of one photograph. Of drafts one is under way at a time, and of those that come meanwhile only
 * the newest is kept, so that the picture always goes to the newest state and stale work is never begun; a fine picture
 * gives way to whatever comes.
 */
export class PictureEngine {
  private waiting: ShowRequest | Painting | null = null;
  /** What a stroke that is under way is painted on, where the workers have it. */
  private base: ShowRequest | null = null;
  private busy = false;
  private closed = false;
  private readonly id = ++views;
  /** The serial of what was asked for last, where workers can look while they are busy. */
  private readonly newest = self.crossOriginIsolated ? new Int32Array(new SharedArrayBuffer(4)) : null;
  private readonly ports: (MessagePort | null)[] = large().map(() => null);
  /** Told when all pieces of some work have come, by its number. */
  private readonly sent = new Map<number, () => void>();
  private readonly ready: Promise<unknown>[];
  private readonly forget: (() => void)[];

  /**
   * @param onPiece gets tiles as they come
   * @param onLost told when a worker has died and another has begun: what is wanted is to be asked for again
   * @param slot another number for each view that is there at the same time
   */
  constructor(
    private readonly onPiece: (piece: Piece) => void,
    private readonly onShown: (request: ShowRequest | Painting, shown: Shown) => void,
    private readonly onError: (error: Error) => void,
    onLost: () => void,
    private readonly slot = 0,
  ) {
    this.ready = large().map((_, k) => this.connect(k));
    this.forget = large().map((worker, k) =>
      worker.onRestart(() => {
        if (this.closed) return;
        this.base = null;
        for (const done of this.sent.values()) done();
        this.ready[k] = this.connect(k);
        onLost();
      }),
    );
  }

  private connect(k: number): Promise<unknown> {
    const { port1, port2 } = new MessageChannel();
    this.ports[k]?.close();
    this.ports[k] = port1;
    port1.onmessage = ({ data }: MessageEvent<Piece | Done>) => {
      if ('done' in data) this.sent.get(data.done)?.();
      else if (!this.closed) this.onPiece(data);
    };
    const attached = large()[k].once.attach(this.id, transfer(port2, [port2]), this.newest, this.slot);
    attached.catch(() => undefined);
    return attached;
  }

  show(request: ShowRequest): void {
    this.ask(request);
  }

  private ask(request: ShowRequest | Painting): void {
    if (this.newest) Atomics.store(this.newest, 0, request.serial);
    this.waiting = request;
    if (!this.busy) void this.work();
  }

  /** Shows a stroke that is under way on a picture; the same picture for all of a stroke. */
  paint(painting: Painting): void {
    this.ask(painting);
  }

  /** Fetches the pixels of a picture as it would hang, for when it is shown. */
  warm({ picture, treatment }: Beside, viewport: Size, margin: number): void {
    for (const [which, worker] of large().entries()) {
      const share = { which, of: workers };
      void worker.once.warm(picture, treatment, viewport, margin, share).catch(() => undefined);
    }
  }

  /** A tile that was said to be here is not: it is sent again. */
  missing(piece: Piece): void {
    for (const port of this.ports) port?.postMessage(piece);
  }

  close(): void {
    this.waiting = null;
    this.closed = true;
    for (const forget of this.forget) forget();
    for (const port of this.ports) port?.close();
    for (const worker of large()) void worker.once.detach(this.id).catch(() => undefined);
  }

  private async draw(request: ShowRequest | Painting): Promise<Shown | null> {
    await Promise.all(this.ready);
    let each: (which: number, share: Share) => Promise<Shown | null>;
    if ('stroke' in request) {
      const { base, ...rest } = request;
      const isNew = this.base !== base;
      this.base = base;
      each = (which, share) => {
        const stroke = { ...rest, base: isNew ? sent(which, base) : null };
        return large()[which].once.showStroke(this.id, stroke, share);
      };
    } else {
      this.base = null;
      if (workers > 1) {
        // Tables are baked once for all.
        const tables = await large()[0].once.prepare(this.id, sent(0, request));
        if (!tables) return null;
        await Promise.all(
          large()
            .slice(1)
            .map(worker => worker.once.learn(tables)),
        );
      }
      each = (which, share) => large()[which].once.show(this.id, sent(which, request), share);
    }
    const all = await Promise.all(large().map((_, which) => this.withPieces(which, each)));
    const shown = all.filter(s => s !== null);
    if (shown.length < all.length) return null;
    return {
      took: Math.max(...shown.map(s => s.took)),
      planned: Math.max(...shown.map(s => s.planned)),
      pixels: shown.reduce((sum, s) => sum + s.pixels, 0),
      fine: shown.every(s => s.fine),
      tiles: shown.flatMap(s => s.tiles ?? []),
    };
  }

  /** Work of one worker, done when its pieces are here as well. */
  private async withPieces(
    which: number,
    begin: (which: number, share: Share) => Promise<Shown | null>,
  ): Promise<Shown | null> {
    const work = ++works;
    const pieces = new Promise<void>(done => this.sent.set(work, done));
    try {
      const shown = await begin(which, { which, of: workers, work });
      await pieces;
      return shown;
    } finally {
      this.sent.delete(work);
    }
  }

  private async drawAndTell(request: ShowRequest | Painting): Promise<void> {
    try {
      const shown = await this.draw(request);
      pictureShown();
      if (shown && !this.closed) this.onShown(request, shown);
    } catch (error) {
      // Of a death the page is told by itself, and asks again.
      if (!this.closed && !(error instanceof EngineDied)) this.onError(error as Error);
    }
  }

  private async work(): Promise<void> {
    this.busy = true;
    drawing++;
    while (this.waiting) {
      const request = this.waiting;
      this.waiting = null;
      const done = this.drawAndTell(request);
      if ('stroke' in request || request.draft) await done;
    }
    this.busy = false;
    drawing--;
    giveSmall();
  }
}
