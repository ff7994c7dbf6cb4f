import { createStore } from 'zustand';
import type { Frame } from '../../core/frame/frame';
import type { Treatment } from '../../core/treatment/treatment';
import { noteAway } from '../app/away';
import { PictureEngine, type Beside } from '../engine/client';
import type { ShowRequest, Shown } from '../engine/screen';
import { Surface, type Reading } from '../engine/surface';
import { PIXELS_AWAY, type PictureInfo } from '../engine/tiles';
import type { Placement, Size, View } from '../engine/view';
import type { PointerPlace } from './pointer-place';
import type { Live } from './tool';

/** How long a picture must stay as it is before a draft of it is made fine: longer while a pointer or a key is down, since more may come. */
const REFINE_MS = 28;
const REFINE_HELD_MS = 120;

/** Whether a pointer or a key is down anywhere on the page. */
let isHeld = false;
for (const type of ['pointerdown', 'keydown']) window.addEventListener(type, () => (isHeld = true), true);
for (const type of ['pointerup', 'pointercancel', 'keyup', 'blur']) {
  window.addEventListener(type, () => (isHeld = false), true);
}

/** Once an answer takes longer than this it is said that something is being worked out. */
const LATE_MS = 500;

export interface DrawingState {
  /** Something has been drawn. */
  shown: boolean;
  /** The last request that came to rest: what is read of the picture is read anew then. */
  rested: number;
  /** What was asked for takes its time. */
  late: boolean;
  fault: string | null;
}

/** Which picture hangs, and how. */
export interface Hung {
  picture: PictureInfo;
  view: View;
  viewport: Size;
  margin: number;
  marking: ShowRequest['marking'];
}

/**
 * The large picture: hung as it lies in every frame, asked for as it moves, made fine when it rests. What it shows is drawn past
 * the interface, which follows its state.
 */
export class Drawing {
  readonly state = createStore<DrawingState>(() => ({ shown: false, rested: 0, late: false, fault: null }));
  private canvas: HTMLCanvasElement | null = null;
  private engine: PictureEngine | null = null;
  private surface: Surface | null = null;
  private hung: Hung | null = null;
  private serials = 0;
  private contents = 0;
  /** The last request, unless a stroke has been painted on it. */
  private asked: ShowRequest | null = null;
  /** What the stroke that is under way is painted on. */
  private paintedOn: ShowRequest | null = null;
  /** The request for which tiles have been made anew: once. */
  private renewed = -1;
  /** Since when the newest request waits; undefined where it has been answered. */
  private waiting: ReturnType<typeof setTimeout> | undefined;
  private refining: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param slot another number for each picture that hangs at the same time; that of the Bench's own is 0
   * @param pointer the place of the viewport that is looked at, in device pixels
   */
  constructor(
    private readonly slot: number,
    private readonly pointer: PointerPlace,
  ) {}

  /** Puts its canvas into a place of the page, until what it returns is called. */
  open(place: HTMLElement): () => void {
    const canvas = document.createElement('canvas');
    canvas.setAttribute('role', 'img');
    canvas.dataset[this.slot ? 'beside' : 'picture'] = '';
    place.replaceChildren(canvas);
    const engine = new PictureEngine(
      piece => this.surface?.take(piece),
      (request, shown) => this.shown(request, shown),
      error => this.failed(error),
      () => this.again(),
      this.slot,
    );
    this.canvas = canvas;
    this.engine = engine;
    this.surface = new Surface(canvas, piece => engine.missing(piece));
    this.asked = null;
    this.paintedOn = null;
    return () => {
      clearTimeout(this.refining);
      this.answered();
      engine.close();
      this.surface?.close();
      this.engine = null;
      this.surface = null;
      place.replaceChildren();
    };
  }

  setTitle(title: string): void {
    this.canvas?.setAttribute('aria-label', title);
  }

  /** Hangs the picture: it lies where all that stands about it says, in the same frame. */
  hang(hung: Hung, frame: Frame, at: Placement): void {
    this.hung = hung;
    this.surface?.hang({ picture: hung.picture, frame, at, viewport: hung.viewport });
  }

  /** Lays a small picture of it down, for what is not there yet. */
  async lay(address: string, signal: AbortSignal): Promise<void> {
    const image = await createImageBitmap(await (await fetch(address, { signal })).blob());
    if (!signal.aborted) {
      this.surface?.lay(image);
      this.put({ shown: true });
    }
    image.close();
  }

  /** Asks for a treatment, unless that is what is shown, or what is painted on. */
  ask(wanted: Treatment): void {
    const last = this.asked ?? this.paintedOn;
    const request = this.requestFor(wanted, last);
    if (!request || request === last) return;
    this.asked = { ...request, serial: this.nextSerial() };
    this.engine?.show(this.asked);
  }

  /** What was asked for last is asked for again. */
  again(): void {
    if (this.asked) this.engine?.show(this.asked);
  }

  /** Draws strokes past the interface. */
  readonly live: Live = {
    stroke: (on, area, stroke) => {
      const base = this.requestFor(on, this.paintedOn);
      if (!base) return;
      this.asked = null;
      this.paintedOn = base;
      const { content } = base;
      this.engine?.paint({ base, serial: this.nextSerial(), content, area, stroke });
    },
  };

  /** No stroke is under way any more. */
  readonly endStroke = (): void => {
    this.paintedOn = null;
  };

  /** The colour drawn at a device pixel. */
  readonly read = (x: number, y: number): Reading | null => this.surface?.read(x, y) ?? null;

  /** Fetches what may be shown next. */
  warm(beside: readonly Beside[]): void {
    if (!this.hung) return;
    for (const each of beside) this.engine?.warm(each, this.hung.viewport, this.hung.margin);
  }

  /** Changes what is followed of it, where it is otherwise: nothing is built anew for what stays. */
  private put(change: Partial<DrawingState>): void {
    const now = this.state.getState();
    const isOther = (Object.keys(change) as (keyof DrawingState)[]).some(key => now[key] !== change[key]);
    if (isOther) this.state.setState(change);
  }

  /** A request for a treatment as the picture hangs now, or that one again where it asks for the same. */
  private requestFor(wanted: Treatment, last: ShowRequest | null): ShowRequest | null {
    if (!this.hung) return null;
    const { picture, view, viewport, margin, marking } = this.hung;
    const isSameContent = last?.treatment === wanted && last.picture === picture && last.marking === marking;
    const isSame =
      isSameContent && last.view === view && last.viewport === viewport && last.margin === margin;
    if (isSame) return last;
    return {
      serial: 0,
      content: isSameContent ? last.content : ++this.contents,
      ...{ picture, view, viewport, margin, marking },
      treatment: wanted,
      pointer: this.pointer.now(),
      // Where only the view has changed what is at hand serves until the fine picture comes.
      draft: !isSameContent,
    };
  }

  private nextSerial(): number {
    const serial = ++this.serials;
    this.waits();
    if (this.canvas) this.canvas.dataset.wanted = String(serial);
    return serial;
  }

  private waits(): void {
    this.waiting ??= setTimeout(() => this.put({ late: true }), LATE_MS);
  }

  private answered(): void {
    clearTimeout(this.waiting);
    this.waiting = undefined;
    this.put({ late: false });
  }

  private shown(request: { serial: number; content: number }, { took, planned, pixels, fine, tiles }: Shown) {
    const { canvas, surface, slot } = this;
    if (!canvas || !surface) return;
    this.put({ fault: null, shown: true });
    this.answered();
    if (request.serial !== this.serials) this.waits();
    if (fine && this.renews(request, surface.lost(tiles ?? []))) return;
    if (fine && request.content === this.contents) surface.settle(request.content);
    if (pixels) performance.mark('picture shown', { detail: { took, planned, pixels, fine, slot } });
    canvas.dataset.shown = String(request.serial);
    canvas.dataset.fine = String(fine);
    if (fine) {
      this.put({ rested: request.serial });
      return;
    }
    clearTimeout(this.refining);
    this.refining = setTimeout(
      () => {
        if (request.serial === this.serials && this.asked) this.engine?.show({ ...this.asked, draft: false });
      },
      isHeld ? REFINE_HELD_MS : REFINE_MS,
    );
  }

  /** Nothing is said to be shown that is not: tiles of another state than the worker's are made anew, and the log says so. */
  private renews(
    { serial, content }: { serial: number; content: number },
    { tiles, wereAwaited }: ReturnType<Surface['lost']>,
  ): boolean {
    const isLast = serial === this.serials && content === this.contents;
    if (!tiles.length || !isLast || !this.asked || this.renewed === serial) return false;
    if (!wereAwaited) {
      console.error(`${tiles.length} tiles were not of the last state of the picture, and are made anew.`);
    }
    this.renewed = serial;
    this.engine?.show({ ...this.asked, draft: false, renew: tiles });
    return true;
  }

  private failed(error: Error): void {
    this.put({ fault: error.message });
    this.answered();
    if (error.name === PIXELS_AWAY) noteAway('server');
  }
}
