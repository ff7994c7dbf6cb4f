import { useLayoutEffect, useRef } from 'react';
import { isKey, isTyping, type KeyName } from './keys';

/** What a key does; false leaves it to others. A held key is told of twice: pressed, and let go. */
export type KeyHandler =
  | ((event: KeyboardEvent) => void | false)
  | { hold: (event: KeyboardEvent) => void | false; release: () => void };

type Handlers = { [name in KeyName]?: KeyHandler };

/** Those that listen, the newest first: what opened last is asked first. */
const listening: { current: Handlers }[] = [];
/** Keys that are held, and what their letting go does. */
const held = new Map<string, () => void>();

function press(event: KeyboardEvent): void {
  if (event.defaultPrevented || isTyping(event)) return;
  for (const { current } of listening) {
    for (const [name, handler] of Object.entries(current) as [KeyName, KeyHandler][]) {
      if (!isKey(name, event)) continue;
      const act = typeof handler === 'function' ? handler : handler.hold;
      if (act(event) === false) continue;
      if (typeof handler !== 'function') held.set(event.key.toLowerCase(), handler.release);
      event.preventDefault();
      return;
    }
  }
}

function letGo(event: KeyboardEvent): void {
  const key = event.key.toLowerCase();
  held.get(key)?.();
  held.delete(key);
}

/** The window is left: nothing is held any more. */
function away(): void {
  for (const release of held.values()) release();
  held.clear();
}

/** Listens to keys of the list as long as it is there. One listener of the window serves all. */
export function useKeys(handlers: Handlers, isOn = true): void {
  const mine = useRef(handlers);
  // As soon as what they belong to is seen: a quick key is not lost.
  useLayoutEffect(() => {
    mine.current = handlers;
  });
  useLayoutEffect(() => {
    if (!isOn) return;
    if (listening.length === 0) {
      window.addEventListener('keydown', press);
      window.addEventListener('keyup', letGo);
      window.addEventListener('blur', away);
    }
    listening.unshift(mine);
    return () => {
      listening.splice(listening.indexOf(mine), 1);
      if (listening.length > 0) return;
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', letGo);
      window.removeEventListener('blur', away);
    };
  }, [isOn]);
}
