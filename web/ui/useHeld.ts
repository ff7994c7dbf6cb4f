import { useEffect, useRef, type RefObject } from 'react';

/** Keys that move a slider. */
const moves = new Set([
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  'PageUp',
  'PageDown',
  'Home',
  'End',
]);

/** Tells when an element is held: pressed by the pointer, or moved by a key until that is let go. */
export function useHeld(
  track: RefObject<HTMLElement | null>,
  onHold: ((held: boolean) => void) | undefined,
): void {
  const latest = useRef(onHold);
  useEffect(() => {
    latest.current = onHold;
  });
  useEffect(() => {
    const element = track.current;
    if (!element) return;
    let held = false;
    const hold = (now: boolean) => {
      if (held === now) return;
      held = now;
      latest.current?.(now);
    };
    const release = () => hold(false);
    const press = () => hold(true);
    const key = (event: KeyboardEvent) => moves.has(event.key) && hold(true);
    element.addEventListener('pointerdown', press, true);
    element.addEventListener('keydown', key, true);
    element.addEventListener('keyup', release, true);
    element.addEventListener('focusout', release);
    window.addEventListener('pointerup', release, true);
    window.addEventListener('pointercancel', release, true);
    return () => {
      release();
      element.removeEventListener('pointerdown', press, true);
      element.removeEventListener('keydown', key, true);
      element.removeEventListener('keyup', release, true);
      element.removeEventListener('focusout', release);
      window.removeEventListener('pointerup', release, true);
      window.removeEventListener('pointercancel', release, true);
    };
  }, [track]);
}
