import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Treatment } from '../../core/treatment/schema';
import { noteAway, onReturn } from '../app/away';
import { PictureEngine } from '../engine/client';
import type { ShowRequest } from '../engine/screen';
import { PIXELS_AWAY, type PictureInfo } from '../engine/tiles';
import type { Size, View } from '../engine/view';
import type { Live } from './tool';

/** How long a picture must stay as it is before a draft of it is made fine. */
const REFINE_MS = 120;

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
  /** Device pixels; null until it is measured. */
  viewport: Size | null;
  view: View;
  margin: number;
  marks: ShowRequest['marking'];
}

export interface Drawing {
  /** Where the canvas is put. */
  home: RefObject<HTMLDivElement | null>;
  /** Something has been drawn. */
  shown: boolean;
  fault: string | null;
  /** Draws strokes past the interface. */
  live: Live;
  /** No stroke is under way any more. */
  endStroke: () => void;
  /** The colour drawn at a device pixel. */
  read: (x: number, y: number) => Promise<[number, number, number] | null>;
}

/** The canvas of the large picture: asked for as it moves, made fine when it rests, begun anew when its worker dies. */
export function useDrawing({
  picture,
  title,
  treatment,
  follow,
  viewport,
  view,
  margin,
  marks,
}: Wanted): Drawing {
  const home = useRef<HTMLDivElement>(null);
  const engine = useRef<PictureEngine | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [shown, setShown] = useState(false);
  /** Counts the canvases: a worker that dies takes its canvas along. */
  const [canvases, setCanvases] = useState(0);
  const serials = useRef(0);
  /** The last request, unless a stroke has been painted on it. */
  const asked = useRef<ShowRequest | null>(null);
  /** What the stroke that is under way is painted on. */
  const paintedOn = useRef<ShowRequest | null>(null);

  useLayoutEffect(() => {
    const place = home.current!;
    const canvas = document.createElement('canvas');
    canvas.setAttribute('role', 'img');
    canvas.dataset.picture = '';
    place.replaceChildren(canvas);
    let refining: ReturnType<typeof setTimeout> | undefined;
    const made = new PictureEngine(
      canvas,
      (request, { took, pixels, fine }) => {
        setFault(null);
        setShown(true);
        if (pixels) performance.mark('picture shown', { detail: { took, pixels } });
        canvas.dataset.shown = String(request.serial);
        canvas.dataset.fine = String(fine);
        if (fine) return;
        clearTimeout(refining);
        refining = setTimeout(() => {
          if (request.serial === serials.current && asked.current) {
            made.show({ ...asked.current, draft: false });
          }
        }, REFINE_MS);
      },
      error => {
        setFault(error.message);
        if (error.name === PIXELS_AWAY) noteAway('server');
      },
      () => setCanvases(n => n + 1),
    );
    engine.current = made;
    asked.current = null;
    paintedOn.current = null;
    return () => {
      engine.current = null;
      clearTimeout(refining);
      made.close();
      place.replaceChildren();
    };
  }, [canvases]);

  /** A request for a treatment as the picture hangs now, or that one again where it asks for the same. */
  const requestFor = useCallback(
    (wanted: Treatment, last: ShowRequest | null): ShowRequest | null => {
      if (!viewport) return null;
      const isSame =
        last?.treatment === wanted &&
        last.picture === picture &&
        last.view === view &&
        last.viewport === viewport &&
        last.margin === margin &&
        last.marking === marks;
      if (isSame) return last;
      return { serial: 0, picture, treatment: wanted, view, viewport, margin, marking: marks, draft: true };
    },
    [picture, view, viewport, margin, marks],
  );
  const nextSerial = () => {
    const serial = ++serials.current;
    const canvas = home.current?.querySelector('canvas');
    if (canvas) canvas.dataset.wanted = String(serial);
    return serial;
  };

  /** Asks for a treatment, unless that is what is shown, or what is painted on. */
  const ask = useCallback(
    (wanted: Treatment) => {
      const last = asked.current ?? paintedOn.current;
      const request = requestFor(wanted, last);
      if (!request || request === last) return;
      asked.current = { ...request, serial: nextSerial() };
      engine.current?.show(asked.current);
    },
    [requestFor],
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
  useEffect(() => ask(follow?.newest() ?? treatment), [follow, ask, treatment, canvases]);
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
  }, [title, canvases]);

  const stroke = useRef<Live['stroke']>(() => undefined);
  useLayoutEffect(() => {
    stroke.current = (on, area, drawn) => {
      const base = requestFor(on, paintedOn.current);
      if (!base) return;
      asked.current = null;
      paintedOn.current = base;
      engine.current?.paint(base, nextSerial(), area, drawn);
    };
  });
  const live: Live = useMemo(() => ({ stroke: (...drawn) => stroke.current(...drawn) }), []);
  const endStroke = useCallback(() => {
    paintedOn.current = null;
  }, []);
  const read = useCallback(async (x: number, y: number) => (await engine.current?.read(x, y)) ?? null, []);

  return { home, shown, fault, live, endStroke, read };
}
