import { useCallback, useEffect, useLayoutEffect, useMemo, useState, type RefObject } from 'react';
import type { Frame } from '../../core/frame/schema';
import { panBy, place, printOf, zoomAt, type Placement, type Size, type View } from '../engine/view';

/** Room around a fitted print: its border and a strip of wall. */
export const MARGIN = 22;
/** The print's border of paper. */
export const BORDER = 7;
/** Room below the picture for the wall labels, and for the bar of the tools in their place: the same, so that it moves nothing. */
export const FOOT = 52;

export interface Hanging {
  /** Device pixels of the wall; null until it is measured. */
  viewport: Size | null;
  /** Device pixels a CSS pixel. */
  ratio: number;
  view: View;
  margin: number;
  /** Where the picture lies. */
  at: Placement | null;
  scale: number;
  /** Sets the scale about a point of the wall (device pixels), else about its middle. */
  zoom: (scale: number, about?: { x: number; y: number }) => void;
  /** Moves the picture, in device pixels. */
  pan: (right: number, down: number) => void;
  fit: () => void;
}

/** How the picture hangs on the wall: measured, fitted, zoomed about a point, moved. */
export function useHanging(wall: RefObject<HTMLDivElement | null>, picture: Size, frame: Frame): Hanging {
  const [viewport, setViewport] = useState<Size | null>(null);
  const [ratio, setRatio] = useState(1);
  const [view, setView] = useState<View>({ mode: 'fit' });

  useLayoutEffect(() => {
    const element = wall.current!;
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
  }, [wall]);

  const margin = Math.round(MARGIN * ratio);
  const print = useMemo(() => printOf(picture, frame), [picture, frame]);
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
  const pan = useCallback(
    (right: number, down: number) => {
      if (viewport) setView(v => panBy(print, viewport, v, margin, right, down));
    },
    [print, viewport, margin],
  );
  const fit = useCallback(() => setView({ mode: 'fit' }), []);

  useEffect(() => {
    const element = wall.current!;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const about = { x: (event.clientX - box.left) * ratio, y: (event.clientY - box.top) * ratio };
      zoom(scale * Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0018)), about);
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [wall, zoom, scale, ratio]);

  return { viewport, ratio, view, margin, at, scale, zoom, pan, fit };
}
