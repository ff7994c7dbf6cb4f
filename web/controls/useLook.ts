import { useEffect, useRef, useState } from 'react';
import type { NamedPigment } from '../../core/colour/pigments';

/** What a pigment is seen as before it is taken: told as it is pointed at, and null when it no longer is. */
export function useLook(now: NamedPigment, onLook: ((looked: NamedPigment | null) => void) | undefined) {
  const [before, setBefore] = useState<NamedPigment | null>(null);
  const latest = useRef({ before, onLook });
  useEffect(() => {
    latest.current = { before, onLook };
  });
  const back = () => {
    if (latest.current.before) latest.current.onLook?.(null);
    latest.current.before = null;
    setBefore(null);
  };
  // Put away while something was looked at, it leaves what was there.
  useEffect(
    () => () => {
      if (latest.current.before) latest.current.onLook?.(null);
    },
    [],
  );
  return {
    /** What was chosen, whatever is looked at. */
    chosen: before ?? now,
    look: (looked: NamedPigment) => {
      if (!onLook) return;
      latest.current.before ??= now;
      setBefore(latest.current.before);
      onLook(looked);
    },
    back,
  };
}
