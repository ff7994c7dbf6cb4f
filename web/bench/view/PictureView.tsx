import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../../core/treatment/schema';
import { PictureEngine } from '../../engine/client';
import type { ShowRequest } from '../../engine/screen';
import type { PictureInfo } from '../../engine/tiles';
import { panBy, place, printOf, zoomAt, type Size, type View } from '../../engine/view';
import { isTyping } from '../keys';
import { Reading, type ReadColour } from './Reading';
import { Tones } from './Tones';
import type { Live, OnWall, PictureTool, ToolDrag } from './tool';
import { ZoomLabel } from './ZoomLabel';

const Wall = styled.main`
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
`;

/** The white border of the print, which is also the white reference. */
const Print = styled.div`
  position: absolute;
  background: #fafafa;
  box-shadow: var(--shade-print);
  pointer-events: none;
`;

const Stage = styled.div`
  position: absolute;
  inset: 0;
  touch-action: none;
  outline: none;
  &[data-free] {
    cursor: grab;
  }
  &[data-panning] {
    cursor: grabbing;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  &:focus-visible::after {
    content: '';
    position: absolute;
    inset: 3px;
    outline: 2px solid var(--wall-ink);
  }
`;

const Fault = styled.p`
  position: absolute;
  left: 50%;
  top: 40%;
  transform: translate(-50%, -50%);
  background: var(--paper-high);
  padding: 12px 16px;
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
`;

/** How long a picture must stay as it is before a draft of it is made fine. */
const REFINE_MS = 120;
const BORDER = 7;
/** Room around a fitted print: its border and a strip of wall. Below it, the wall labels. */
const MARGIN = 22;
const FOOT = 34;
/** The same with the bar of the tools. */
const BAR_FOOT = 68;

export interface PictureViewProps {
  picture: PictureInfo;
  title: string;
  treatment: Treatment;
  /** What a press on the picture does; without one, and with the space bar held, it moves the picture. */
  tool?: PictureTool | null;
  /** What is to be shown at each movement of a control, ahead of `treatment`; null where that is. */
  follow?: {
    newest: () => Treatment | null;
    subscribe: (listener: () => void) => () => void;
  };
  /** What has no colour steps back. */
  colouredMarked?: boolean;
  /** Labels below the picture take two rows, the tools' own in place of those of the picture. */
  bar?: ReactNode;
  /** What is laid over the picture. */
  children?: (onWall: OnWall) => ReactNode;
}

/** The browser tells of the pointer's places at once. */
const RAW = 'onpointerrawupdate' in window;

/** A mouse has no pressure; a pen has its own. */
const pressureOf = (event: { pointerType?: string; pressure?: number }) =>
  event.pointerType === 'pen' && event.pressure ? event.pressure : 1;

/** The photograph on the wall: drawn by the engine, zoomed and moved. */
export function PictureView({
  picture,
  title,
  treatment,
  tool = null,
  follow,
  colouredMarked,
  bar,
  children,
}: PictureViewProps) {
  const stage = useRef<HTMLDivElement>(null);
  const canvasHome = useRef<HTMLDivElement>(null);
  const engine = useRef<PictureEngine | null>(null);
  const [viewport, setViewport] = useState<Size | null>(null);
  const [ratio, setRatio] = useState(1);
  const [view, setView] = useState<View>({ mode: 'fit' });
  const [fault, setFault] = useState<string | null>(null);
  const [shown, setShown] = useState(false);
  const [reading, setReading] = useState<ReadColour | null>(null);
  const [panning, setPanning] = useState(false);
  const [marking, setMarking] = useState(false);
  const serials = useRef(0);
  /** The last request, unless a stroke has been painted on it. */
  const asked = useRef<ShowRequest | null>(null);
  /** What the stroke that is under way is painted on. */
  const paintedOn = useRef<ShowRequest | null>(null);
  const pointer = useRef<{ x: number; y: number } | null>(null);
  const [spaceHeld, setSpaceHeld] = useState(false);
  const drag = useRef<{ of: ToolDrag; x: number; y: number } | null>(null);

  useEffect(() => {
    const home = canvasHome.current!;
    const canvas = document.createElement('canvas');
    canvas.setAttribute('role', 'img');
    canvas.dataset.picture = '';
    home.replaceChildren(canvas);
    let refining: ReturnType<typeof setTimeout> | undefined;
    const made = new PictureEngine(
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
      error => setFault(error.message),
    );
    made.attach(canvas);
    engine.current = made;
    return () => {
      engine.current = null;
      clearTimeout(refining);
      made.close();
      home.replaceChildren();
    };
  }, []);

  useLayoutEffect(() => {
    const element = stage.current!;
    const measure = () => {
      const r = window.devicePixelRatio || 1;
      setRatio(r);
      setViewport({
        width: Math.round(element.clientWidth * r),
        height: Math.round(element.clientHeight * r),
      });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const margin = Math.round(MARGIN * ratio);
  const { frame } = treatment;
  const print = useMemo(() => printOf(picture, frame), [picture, frame]);
  const at = viewport && place(print, viewport, view, margin);
  const marks = marking ? 'lost' : colouredMarked ? 'coloured' : null;

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
    const canvas = canvasHome.current?.querySelector('canvas');
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
  useEffect(() => ask(follow?.newest() ?? treatment), [follow, ask, treatment]);
  useEffect(() => {
    canvasHome.current?.querySelector('canvas')?.setAttribute('aria-label', title);
  }, [title]);

  const read = useCallback(async () => {
    const p = pointer.current;
    if (!p) return setReading(null);
    const colour = await engine.current?.read(Math.floor(p.x), Math.floor(p.y));
    setReading(colour ? { colour } : null);
  }, []);
  useEffect(() => {
    void read();
  }, [read, treatment]);

  const toPixels = useCallback(
    (event: { clientX: number; clientY: number }) => {
      const box = stage.current!.getBoundingClientRect();
      return { x: (event.clientX - box.left) * ratio, y: (event.clientY - box.top) * ratio };
    },
    [ratio],
  );

  const zoom = useCallback(
    (scale: number, point?: { x: number; y: number }) => {
      if (!viewport) return;
      const middle = { x: viewport.width / 2, y: viewport.height / 2 };
      setView(v => zoomAt(print, viewport, v, margin, scale, point ?? middle));
    },
    [print, viewport, margin],
  );
  const scale = at?.scale ?? 1;

  useEffect(() => {
    const element = stage.current!;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      zoom(scale * Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0018)), toPixels(event));
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [zoom, scale, toPixels]);

  const fit = useCallback(() => setView({ mode: 'fit' }), []);
  const natural = useCallback(() => zoom(1), [zoom]);

  const onPicture = (event: {
    clientX: number;
    clientY: number;
    pointerType?: string;
    pressure?: number;
  }) => {
    const p = toPixels(event);
    if (!at) return null;
    return { x: (p.x - at.x) / at.width, y: (p.y - at.y) / at.height, pressure: pressureOf(event) };
  };

  /** Draws a stroke past the interface, on the picture as it is now. */
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

  const press = (event: PointerEvent<HTMLElement>) => {
    const toMove = event.button === 1 || spaceHeld || !tool;
    if (event.button > 1) return;
    const place = onPicture(event);
    const inside = place && place.x >= 0 && place.y >= 0 && place.x < 1 && place.y < 1;
    if (!toMove && place && (inside || tool.anywhere)) {
      const begun = tool.press(place, { alt: event.altKey, shift: event.shiftKey }, live);
      if (!begun) return;
      drag.current = { of: begun, x: event.clientX, y: event.clientY };
    } else if (toMove && view.mode === 'free') setPanning(true);
    else return;
    event.currentTarget.setPointerCapture(event.pointerId);
  };

  const release = () => {
    setPanning(false);
    drag.current?.of.end?.();
    drag.current = null;
    paintedOn.current = null;
  };

  /** Leads the drag on that is under way. */
  const dragOn = (event: globalThis.PointerEvent) => {
    const { of, x, y } = drag.current!;
    // All places since the last event, where the browser has gathered several.
    const gathered = event.getCoalescedEvents?.() ?? [];
    for (const each of gathered.length > 1 ? gathered : [event]) {
      of.move?.(onPicture(each)!, each.clientX - x, each.clientY - y);
    }
  };

  const move = (event: PointerEvent) => {
    pointer.current = toPixels(event);
    if (drag.current) {
      if (!RAW || !drag.current.of.live) dragOn(event.nativeEvent);
      return;
    }
    if (panning && viewport) {
      const { movementX, movementY } = event;
      setView(v => panBy(print, viewport, v, margin, movementX * ratio, movementY * ratio));
    }
    void read();
  };

  // Places as they come, where the browser gives them, not once a frame.
  const raw = useRef(dragOn);
  useLayoutEffect(() => {
    raw.current = dragOn;
  });
  useEffect(() => {
    if (!RAW) return;
    const element = stage.current!;
    const moved = (event: Event) => {
      if (drag.current?.of.live) raw.current(event as globalThis.PointerEvent);
    };
    element.addEventListener('pointerrawupdate', moved);
    return () => element.removeEventListener('pointerrawupdate', moved);
  }, []);

  const onKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || !viewport) return;
    const step = 60 * ratio;
    const pan = { ArrowLeft: [step, 0], ArrowRight: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[
      event.key
    ];
    if (pan) setView(v => panBy(print, viewport, v, margin, pan[0], pan[1]));
    else if (event.key === '+' || event.key === '=') zoom(scale * 1.25);
    else if (event.key === '-') zoom(scale / 1.25);
    else return;
    event.preventDefault();
  };

  useEffect(() => {
    const press = (event: globalThis.KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
      if (event.key === ' ' && event.target === stage.current) {
        event.preventDefault();
        setSpaceHeld(true);
      } else if (event.key === 'f') setView({ mode: 'fit' });
      else if (event.key === 'n') zoom(1);
      else if (event.key === 'h') setMarking(now => !now);
    };
    const release = (event: globalThis.KeyboardEvent) => {
      if (event.key === ' ') setSpaceHeld(false);
    };
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
    };
  }, [zoom]);

  return (
    <Wall>
      {at && (shown || fault === null) ? (
        <Print
          data-print
          style={{
            left: at.x / ratio - BORDER,
            top: at.y / ratio - BORDER,
            width: at.width / ratio + 2 * BORDER,
            height: at.height / ratio + 2 * BORDER,
          }}
        />
      ) : null}
      <Stage
        ref={stage}
        style={{
          bottom: bar ? BAR_FOOT : FOOT,
          cursor: tool && !spaceHeld && !panning ? tool.cursor : undefined,
        }}
        tabIndex={0}
        data-stage-of-picture
        role="group"
        aria-label={`The picture. Plus and minus zoom, arrow keys move it.${tool ? ` ${tool.name}` : ''}`}
        data-free={(view.mode === 'free' && (!tool || spaceHeld)) || undefined}
        data-panning={panning || undefined}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={release}
        onPointerLeave={() => {
          pointer.current = null;
          setReading(null);
        }}
        onKeyDown={onKey}
      >
        <div ref={canvasHome} />
      </Stage>
      {at && children
        ? children({
            left: at.x / ratio,
            top: at.y / ratio,
            width: at.width / ratio,
            height: at.height / ratio,
          })
        : null}
      {fault ? <Fault role="alert">{fault}</Fault> : null}
      {bar ?? (
        <>
          <Reading reading={reading} />
          <Tones picture={picture} treatment={treatment} marking={marking} onMark={setMarking} />
        </>
      )}
      <ZoomLabel scale={scale} fit={view.mode === 'fit'} onFit={fit} onNatural={natural} />
    </Wall>
  );
}
