import { useEffect, useMemo, useRef, useState } from 'react';
import type { TakeSession } from '../takes/session';

/** A press that is let go of before this is a click: what it shows stays. */
const CLICK_MS = 300;

export type Bare = 'no' | 'held' | 'kept';

/**
 * The bare photograph in place of the treated one: as long as it is held, or from one click to the next. Work on the treatment
 * ends it, so that what is done is seen.
 */
export function useBare(session: TakeSession) {
  const [bare, setBare] = useState<Bare>('no');
  const pressed = useRef(0);
  const before = useRef<Bare>('no');
  const press = useMemo(
    () => ({
      begin: () => {
        pressed.current = performance.now();
        setBare(now => {
          before.current = now;
          return 'held';
        });
      },
      end: () => {
        const isClick = performance.now() - pressed.current < CLICK_MS;
        setBare(isClick && before.current !== 'kept' ? 'kept' : 'no');
      },
    }),
    [],
  );
  useEffect(() => {
    if (bare !== 'kept') return;
    const { treatment } = session.state();
    const stop = session.subscribe(() => {
      if (session.state().treatment !== treatment) setBare('no');
    });
    return () => void stop();
  }, [bare, session]);
  return { bare, press };
}
