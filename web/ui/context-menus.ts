import { useEffect } from 'react';

/**
 * A right click, or a long press, on a thing opens the menu that its own button with the dots opens. Things that have one say
 * so: `data-context` on the element that holds both.
 */
export function useContextMenus(): void {
  useEffect(() => {
    const open = (event: MouseEvent) => {
      if (!(event.target instanceof Element)) return;
      // What is typed in, and text that is chosen, keep the browser's own.
      if (event.target.closest('input, textarea, [contenteditable]')) return;
      const button = event.target
        .closest('[data-context]')
        ?.querySelector<HTMLElement>('button[aria-haspopup="true"], button[aria-haspopup="menu"]');
      if (!button) return;
      event.preventDefault();
      button.click();
    };
    document.addEventListener('contextmenu', open);
    return () => document.removeEventListener('contextmenu', open);
  }, []);
}
