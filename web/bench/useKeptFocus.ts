import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react';

/** Something that takes the focus, in a part of the panel. */
const FOCUSABLE = 'input:not([disabled]), button:not([disabled]), [tabindex="0"]';

/**
 * Keeps the focus in a panel that is built anew for another step while it has it: it goes to the control of the same name, or to
 * the heading.
 * @param of what the panel is built for
 */
export function useKeptFocus(panel: RefObject<HTMLElement | null>, of: string | null): void {
  /** What in the panel has the focus; kept when it is taken away with its step. */
  const had = useRef<HTMLElement | null>(null);
  const control = useRef<string | undefined>(undefined);
  useEffect(() => {
    const element = panel.current;
    if (!element) return;
    const taken = ({ target }: FocusEvent) => {
      had.current = target as HTMLElement;
      control.current = had.current.closest<HTMLElement>('[data-control]')?.dataset.control;
    };
    // Left by hand, it is still there; taken away with its step, it is not.
    const left = ({ target }: FocusEvent) =>
      queueMicrotask(() => {
        if ((target as HTMLElement).isConnected && had.current === target) had.current = null;
      });
    element.addEventListener('focusin', taken);
    element.addEventListener('focusout', left);
    return () => {
      element.removeEventListener('focusin', taken);
      element.removeEventListener('focusout', left);
    };
  }, [panel]);
  useLayoutEffect(() => {
    const last = had.current;
    if (!last || last.isConnected || !panel.current) return;
    had.current = null;
    if (document.activeElement && document.activeElement !== document.body) return;
    const named =
      control.current === undefined
        ? null
        : panel.current.querySelector<HTMLElement>(`[data-control="${window.CSS.escape(control.current)}"]`);
    const next =
      named?.querySelector<HTMLElement>(FOCUSABLE) ?? panel.current.querySelector<HTMLElement>('h2');
    next?.focus({ preventScroll: true });
  }, [panel, of]);
}
