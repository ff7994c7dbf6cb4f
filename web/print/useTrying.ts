import { useEffect, useState } from 'react';
import type { Tried } from '../takes/tried';

/** Where the hand is: nothing is tried before it rests there for a moment. */
const REST_MS = 20;

/**
 * What is pointed at: a hand that moves over it. What comes to lie under a pointer at rest is not pointed at, so an undo
 * by keys never tries again what it took back.
 */
export const pointed = (on: (isPointed: boolean) => void) => ({
  onPointerMove: () => on(true),
  onPointerLeave: () => on(false),
});

/**
 * Which of several choices is pointed at, or has the focus: as long as it is, it is tried on the picture.
 * @param triedOf what a choice gives; null where that cannot be. Must stay the same function while nothing changes.
 * @param onTry must stay the same function
 */
export function useTrying(
  triedOf: (key: string) => Tried | null,
  onTry: (tried: Tried | null) => void,
): { at: string | null; point: (key: string, on: boolean) => void } {
  const [at, setAt] = useState<string | null>(null);
  useEffect(() => {
    if (at === null) return onTry(null);
    const timer = setTimeout(() => onTry(triedOf(at)), REST_MS);
    return () => clearTimeout(timer);
  }, [at, triedOf, onTry]);
  useEffect(() => () => onTry(null), [onTry]);
  return { at, point: (key, on) => setAt(now => (on ? key : now === key ? null : now)) };
}
