import { useEffect, useRef, type RefObject } from 'react';

/** How long a turning wheel must rest before the value counts as set. */
const WHEEL_REST_MS = 250;

interface Wheeled {
  value: number;
  min: number;
  max: number;
  step: number;
  move: (value: number) => void;
  /** When the wheel has rested for a moment. */
  rest: (value: number) => void;
}

/** Moves a number by the wheel over an element that has the focus, with Shift ten steps at a time; over another the page scrolls. */
export function useWheel(track: RefObject<HTMLElement | null>, wheeled: Wheeled): void {
  const latest = useRef(wheeled);
  useEffect(() => {
    latest.current = wheeled;
  });
  // React listens to wheels passively; this one must hold the page still.
  useEffect(() => {
    const element = track.current;
    if (!element) return;
    let resting: ReturnType<typeof setTimeout> | undefined;
    const turn = (event: WheelEvent) => {
      if (!element.contains(document.activeElement)) return;
      event.preventDefault();
      const p = latest.current;
      const by = (event.deltaY || event.deltaX) > 0 ? -1 : 1;
      const next = Math.min(p.max, Math.max(p.min, p.value + by * p.step * (event.shiftKey ? 10 : 1)));
      p.value = next;
      p.move(next);
      clearTimeout(resting);
      resting = setTimeout(() => latest.current.rest(latest.current.value), WHEEL_REST_MS);
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => {
      element.removeEventListener('wheel', turn);
      if (resting !== undefined) clearTimeout(resting);
    };
  }, [track]);
}
