import { useCallback, useEffect, useLayoutEffect, useMemo, useState, type RefObject } from 'react';
import type { Frame } from '../../core/frame/frame';
import type { Rectangle } from '../../core/frame/geometry';
import { panBy, place, printOf, zoomAt, type Placement, type Size, type View } from '../engine/view';
import { isHungDown, panesOf, type Split } from './panes';

/** Room around a fitted print: its border and a strip of wall. */
export const MARGIN = 22;
/** The print's border of paper. */
export const BORDER = 7;
/** Room below the picture for the wall labels, and for the bar of the tools in their place: the same, so that it moves nothing. */
export const FOOT = 52;

export interface Hanging {
  /** Device pixels of a picture's pane: of the wall, or of its part of it; null until it is measured. */
  viewport: Size | null;
  /** Where the panes of two pictures lie on the wall, in device pixels; both of one size, and the same where there is one. */
  panes: readonly [Rectangle, Rectangle];
  /** Of two, one is above the other. */
  down: boolean;
  /** Device pixels a CSS pixel. */
  ratio: number;
  view: View;
  margin: number;
  /** Where the picture lies. */
  at: Placement | null;
  scale: number;
  /** Sets the scale about a point of a pane (device pixels), else about its middle. */
  zoom: (scale: number, about?: { x: number; y: number }) => void;
  /** The same by a factor, from wherever it has come to meanwhile. */
  zoomBy: (factor: number, about: { x: number; y: number }) => void;
  /** Moves the picture, in device pixels. */
  pan: (right: number, down: number) => void;
  fit: () => void;
  /** Hangs it as it was. */
  hang: (view: View) => void;
}

const NOWHERE: Rectangle = { x: 0, y: 0, width: 0, height: 0 };

/** The pane that a point of the wall lies on, the first where both are one. */
export const paneAt = (panes: Hanging['panes'], x: number, y: number): 0 | 1 =>
  panes[1] !== panes[0] && x >= panes[1].x && y >= panes[1].y ? 1 : 0;

/** How the picture hangs on the wall, alone or with another: measured, fitted, zoomed about a point, moved. */
export function useHanging(
  wall: RefObject<HTMLDivElement | null>,
  picture: Size,
  frame: Frame,
  split: Pick<Split, 'way' | 'down'> | null = null,
  /** What the wheel does with Shift held, where it does not zoom. */
  turn?: (steps: number) => void,
): Hanging {
  const [room, setRoom] = useState<Size | null>(null);
  const [ratio, setRatio] = useState(1);
  const [view, setView] = useState<View>({ mode: 'fit' });

  useLayoutEffect(() => {
    const element = wall.current!;
    const measure = () => {
      const r = window.devicePixelRatio || 1;
      setRatio(r);
      setRoom({
        width: Math.round(element.clientWidth * r),
        height: Math.round(element.clientHeight * r),
      });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [wall]);

  const margin = Math.round(MARGIN * ratio);
  const print = useMemo(() => printOf(picture, frame), [picture, frame]);
  const way = split?.way ?? 'half';
  const wanted = split?.down ?? null;
  const down = wanted ?? (way === 'side' && room !== null && isHungDown(print, room, margin));
  const panes = useMemo(
    () => (room ? panesOf(room, way, down) : ([NOWHERE, NOWHERE] as const)),
    [room, way, down],
  );
  const viewport = useMemo(
    () => (room ? { width: panes[0].width, height: panes[0].height } : null),
    [room, panes],
  );
  const at = useMemo(() => viewport && place(print, viewport, view, margin), [print, viewport, view, margin]);
  const scale = at?.scale ?? 1;

  const zoom = useCallback(
    (to: number, about?: { x: number; y: number }) => {
      if (!viewport) return;
      const middle = { x: viewport.width / 2, y: viewport.height / 2 };
      setView(v => zoomAt(print, viewport, v, margin, to, about ?? middle));
    },
    [print, viewport, margin],
  );
  const zoomBy = useCallback(
    (factor: number, about: { x: number; y: number }) => {
      if (!viewport) return;
      setView(v =>
        zoomAt(print, viewport, v, margin, place(print, viewport, v, margin).scale * factor, about),
      );
    },
    [print, viewport, margin],
  );
  const pan = useCallback(
    (right: number, down: number) => {
      if (viewport) setView(v => panBy(print, viewport, v, margin, right, down));
    },
    [print, viewport, margin],
  );
  const fit = useCallback(() => setView({ mode: 'fit' }), []);

  useEffect(() => {
    const element = wall.current!;
    const turned = (event: WheelEvent) => {
      event.preventDefault();
      if (event.shiftKey && turn) return turn(event.deltaY + event.deltaX > 0 ? -1 : 1);
      const box = element.getBoundingClientRect();
      const [x, y] = [(event.clientX - box.left) * ratio, (event.clientY - box.top) * ratio];
      const pane = panes[paneAt(panes, x, y)];
      const about = { x: x - pane.x, y: y - pane.y };
      zoomBy(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0018)), about);
    };
    element.addEventListener('wheel', turned, { passive: false });
    return () => element.removeEventListener('wheel', turned);
  }, [wall, zoomBy, ratio, panes, turn]);

  return { viewport, panes, down, ratio, view, hang: setView, margin, at, scale, zoom, zoomBy, pan, fit };
}
