import { useLayoutEffect, useRef, type RefObject } from 'react';

/** Something that takes the focus, in a part of the panel. */
const FOCUSABLE = 'input:not([disabled]), button:not([disabled]), [tabindex="0"]';

/**
 * Keeps the focus in a panel that does not answer for a moment, since it is built for another step: it goes back to what had it,
 * or to the control of that name, or to the heading.
 * @param isAway it does not answer just now
 */
export function useKeptFocus(panel: RefObject<HTMLElement | null>, isAway: boolean): void {
  const had = useRef<{ element: HTMLElement; control: string | undefined } | null>(null);
  useLayoutEffect(() => {
    const { activeElement } = document;
    if (isAway) {
      if (!(activeElement instanceof HTMLElement) || !panel.current?.contains(activeElement)) return;
      const control = activeElement.closest<HTMLElement>('[data-control]')?.dataset.control;
      had.current = { element: activeElement, control };
      return;
    }
    const last = had.current;
    had.current = null;
    // Somebody else took it meanwhile.
    if (
      !last ||
      !panel.current ||
      (activeElement && activeElement !== document.body && activeElement !== last.element)
    )
      return;
    const named =
      last.control === undefined
        ? null
        : panel.current.querySelector<HTMLElement>(`[data-control="${window.CSS.escape(last.control)}"]`);
    const next = last.element.isConnected
      ? last.element
      : (named?.querySelector<HTMLElement>(FOCUSABLE) ?? panel.current.querySelector<HTMLElement>('h2'));
    next?.focus({ preventScroll: true });
  }, [panel, isAway]);
}
