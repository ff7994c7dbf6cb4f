import { useEffect, useState } from 'react';

/** Which control is asked about, and where its name stands. */
export interface Asked {
  name: string;
  /** Of its name on the page, in pixels. */
  top: number;
  left: number;
}

/** The name of a control that something lies on, or is in. */
const toldAt = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>('aside [data-tells]') : null;

function askedOf(element: HTMLElement, name: string): Asked {
  const { top } = element.getBoundingClientRect();
  const { left } = element.closest('aside')!.getBoundingClientRect();
  return { name, top, left };
}

/** The control that has the focus, and its name. */
function focused(): { element: HTMLElement; name: string } | null {
  const element = document.activeElement?.closest<HTMLElement>('aside [data-control]');
  const name = element?.dataset.control;
  return element && name ? { element, name } : null;
}

/**
 * The control whose name is pointed at or touched, or that has the focus where `?` is pressed; null where none is asked about. Whatever
 * else is pressed, scrolled or focused ends it.
 */
export function useTold(): Asked | null {
  const [asked, setAsked] = useState<Asked | null>(null);
  useEffect(() => {
    const end = () => setAsked(null);
    const over = (event: PointerEvent) => {
      const element = toldAt(event.target);
      if (!element || event.pointerType === 'touch' || event.buttons !== 0) return;
      setAsked(askedOf(element, element.dataset.tells!));
    };
    const out = (event: PointerEvent) => {
      if (event.pointerType !== 'touch' && toldAt(event.target)) end();
    };
    const down = (event: PointerEvent) => {
      const element = toldAt(event.target);
      if (element && event.pointerType === 'touch') setAsked(askedOf(element, element.dataset.tells!));
      else end();
    };
    const press = (event: KeyboardEvent) => {
      const at = event.key === '?' ? focused() : null;
      if (at) {
        // Not into the number, and not the list of keys.
        event.preventDefault();
        event.stopPropagation();
        setAsked(now => (now?.name === at.name ? null : askedOf(at.element, at.name)));
      } else if (event.key !== 'Shift') end();
    };
    document.addEventListener('pointerover', over);
    document.addEventListener('pointerout', out);
    document.addEventListener('pointerdown', down, true);
    document.addEventListener('keydown', press, true);
    document.addEventListener('focusin', end);
    document.addEventListener('wheel', end, { passive: true });
    return () => {
      document.removeEventListener('pointerover', over);
      document.removeEventListener('pointerout', out);
      document.removeEventListener('pointerdown', down, true);
      document.removeEventListener('keydown', press, true);
      document.removeEventListener('focusin', end);
      document.removeEventListener('wheel', end);
    };
  }, []);
  return asked;
}
