import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import { noteAway, onReturn } from '../app/away';
import { PictureEngine, type Beside } from '../engine/client';
import type { ShowRequest } from '../engine/screen';
import { Surface, type Reading } from '../engine/surface';
import { PIXELS_AWAY, type PictureInfo } from '../engine/tiles';
import type { PointerPlace } from './pointer-place';
import type { Live } from './tool';
import type { Hanging } from './useHanging';
import { useSame } from '../app/useSame';

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

/** How long nothing must have changed before what may come next is fetched. */
const WARM_MS = 1200;

/** What is to be shown at each movement of a control, ahead of the treatment; null where that is. */
export interface Follow {
  newest: () => Treatment | null;
  subscribe: (listener: () => void) => () => void;
}

export interface Wanted {
  picture: PictureInfo;
  title: string;
  treatment: Treatment;
  follow?: Follow;
  /** How the picture hangs. */
  hanging: Pick<Hanging, 'viewport' | 'view' | 'margin' | 'at'>;
  /** Another number for each picture that hangs at the same time; that of the Bench's own has none. */
  slot?: number;
  /** The place of the viewport that is looked at, in device pixels. */
  pointer: PointerPlace;
  marks: ShowRequest['marking'];
  /** The address of a small picture of it, for the first moment. */
  small?: string;
  /** Pictures that may be shown next. */
  beside?: readonly Beside[];
}

export interface Drawing {
  /** Where the canvas is put. */
  home: RefObject<HTMLDivElement | null>;
  /** Something has been drawn. */
  shown: boolean;
  /** The last request that came to rest: what is read of the picture is read anew then. */
  rested: number;
  /** What was asked for takes its time. */
  late: boolean;
  fault: string | null;
  /** Draws strokes past the interface. */
  live: Live;
  /** No stroke is under way any more. */
  endStroke: () => void;
  /** The colour drawn at a device pixel. */
  read: (x: number, y: number) => Reading | null;
}

/** The large picture: hung as it lies in every frame, asked for as it moves, made fine when it rests. */
export function useDrawing({
  picture,
  title,
  treatment,
  follow,
  hanging: { viewport, view, margin, at },
  slot = 0,
  pointer,
  marks,
  small,
  beside,
}: Wanted): Drawing {
  const home = useRef<HTMLDivElement>(null);
  const engine = useRef<PictureEngine | null>(null);
  const surface = useRef<Surface | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [shown, setShown] = useState(false);
  const [rested, setRested] = useState(0);
  const [late, setLate] = useState(false);
  /** Since when the newest request waits; undefined where it has been answered. */
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const serials = useRef(0);
  const contents = useRef(0);
  /** The last request, unless a stroke has been painted on it. */
  const asked = useRef<ShowRequest | null>(null);
  /** What the stroke that is under way is painted on. */
  const paintedOn = useRef<ShowRequest | null>(null);

  const startWaiting = useCallback(() => {
    waiting.current ??= setTimeout(() => setLate(true), LATE_MS);
  }, []);

  useLayoutEffect(() => {
    const place = home.current!;
    const canvas = document.createElement('canvas');
    canvas.setAttribute('role', 'img');
    canvas.dataset[slot ? 'beside' : 'picture'] = '';
    place.replaceChildren(canvas);
    let refining: ReturnType<typeof setTimeout> | undefined;
    /** The request for which tiles have been made anew: once. */
    let renewed = -1;
    const hung = new Surface(canvas, piece => made.missing(piece));
    const made = new PictureEngine(
      piece => hung.take(piece),
      (request, { took, planned, pixels, fine, tiles }) => {
        setFault(null);
        setShown(true);
        clearTimeout(waiting.current);
        waiting.current = undefined;
        setLate(false);
        if (request.serial !== serials.current) startWaiting();
        const isLast = request.serial === serials.current && request.content === contents.current;
        const lost = hung.lost(fine && isLast && 'view' in request ? (tiles ?? []) : []);
        if (lost.tiles.length && renewed !== request.serial) {
          // Nothing is said to be shown that is not.
          if (!lost.wereAwaited) {
            console.error(
              `${lost.tiles.length} tiles were not of the last state of the picture, and are made anew.`,
            );
          }
          renewed = request.serial;
          made.show({ ...(request as ShowRequest), draft: false, renew: lost.tiles });
          return;
        }
        if (fine && request.content === contents.current) hung.settle(request.content);
        if (pixels) performance.mark('picture shown', { detail: { took, planned, pixels, fine, slot } });
        canvas.dataset.shown = String(request.serial);
        canvas.dataset.fine = String(fine);
        if (fine) return setRested(request.serial);
        clearTimeout(refining);
        refining = setTimeout(
          () => {
            if (request.serial === serials.current && asked.current) {
              made.show({ ...asked.current, draft: false });
            }
          },
          isHeld ? REFINE_HELD_MS : REFINE_MS,
        );
      },
      error => {
        setFault(error.message);
        clearTimeout(waiting.current);
        waiting.current = undefined;
        setLate(false);
        if (error.name === PIXELS_AWAY) noteAway('server');
      },
      () => {
        if (asked.current) made.show(asked.current);
      },
      slot,
    );
    engine.current = made;
    surface.current = hung;
    asked.current = null;
    paintedOn.current = null;
    return () => {
      engine.current = null;
      surface.current = null;
      clearTimeout(refining);
      clearTimeout(waiting.current);
      waiting.current = undefined;
      made.close();
      hung.close();
      place.replaceChildren();
    };
  }, [slot, startWaiting]);

  // The picture lies where all that stands about it says, in the same frame.
  const { frame } = treatment;
  useLayoutEffect(() => {
    if (at && viewport) surface.current?.hang({ picture, frame, at, viewport });
  }, [picture, frame, at, viewport]);
  // Only at first: then the picture itself is there.
  const first = useSame(small, picture.id);
  useEffect(() => {
    if (!first) return;
    let stale = false;
    const lay = async () => {
      const image = await createImageBitmap(await (await fetch(first)).blob());
      if (!stale) {
        surface.current?.lay(image);
        setShown(true);
      }
      image.close();
    };
    lay().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [first]);

  /** A request for a treatment as the picture hangs now, or that one again where it asks for the same. */
  const requestFor = useCallback(
    (wanted: Treatment, last: ShowRequest | null): ShowRequest | null => {
      if (!viewport) return null;
      const isSameContent = last?.treatment === wanted && last.picture === picture && last.marking === marks;
      const isSame =
        isSameContent && last.view === view && last.viewport === viewport && last.margin === margin;
      if (isSame) return last;
      const content = isSameContent ? last.content : ++contents.current;
      return {
        serial: 0,
        content,
        picture,
        treatment: wanted,
        view,
        viewport,
        margin,
        pointer: pointer.now(),
        marking: marks,
        // Where only the view has changed what is at hand serves until the fine picture comes.
        draft: !(isSameContent && last.picture === picture),
      };
    },
    [picture, view, viewport, margin, marks, pointer],
  );
  const nextSerial = useCallback(() => {
    const serial = ++serials.current;
    startWaiting();
    const canvas = home.current?.querySelector('canvas');
    if (canvas) canvas.dataset.wanted = String(serial);
    return serial;
  }, [startWaiting]);

  /** Asks for a treatment, unless that is what is shown, or what is painted on. */
  const ask = useCallback(
    (wanted: Treatment) => {
      const last = asked.current ?? paintedOn.current;
      const request = requestFor(wanted, last);
      if (!request || request === last) return;
      asked.current = { ...request, serial: nextSerial() };
      engine.current?.show(asked.current);
    },
    [requestFor, nextSerial],
  );
  // What moves is asked for before the interface is built anew.
  useEffect(
    () =>
      follow?.subscribe(() => {
        const newest = follow.newest();
        if (newest) ask(newest);
      }),
    [follow, ask],
  );
  useEffect(() => ask(follow?.newest() ?? treatment), [follow, ask, treatment]);
  // What could not be loaded is asked for again.
  useEffect(
    () =>
      onReturn(() => {
        if (asked.current) engine.current?.show(asked.current);
      }),
    [],
  );
  useEffect(() => {
    home.current?.querySelector('canvas')?.setAttribute('aria-label', title);
  }, [title]);

  // What may come next is fetched when this one is there, and nothing else has been asked for a while.
  useEffect(() => {
    if (!shown || !viewport || !beside?.length) return;
    const timer = setTimeout(() => {
      for (const each of beside) engine.current?.warm(each, viewport, margin);
    }, WARM_MS);
    return () => clearTimeout(timer);
  }, [shown, beside, viewport, margin]);

  const stroke = useRef<Live['stroke']>(() => undefined);
  useLayoutEffect(() => {
    stroke.current = (on, area, drawn) => {
      const base = requestFor(on, paintedOn.current);
      if (!base) return;
      asked.current = null;
      paintedOn.current = base;
      const { content } = base;
      engine.current?.paint({ base, serial: nextSerial(), content, area, stroke: drawn });
    };
  });
  const live: Live = useMemo(() => ({ stroke: (...drawn) => stroke.current(...drawn) }), []);
  const endStroke = useCallback(() => {
    paintedOn.current = null;
  }, []);
  const read = useCallback((x: number, y: number) => surface.current?.read(x, y) ?? null, []);

  return { home, shown, rested, late, fault, live, endStroke, read };
}
