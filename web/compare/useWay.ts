import { useEffect, useMemo, useRef, useState } from 'react';
import type { TakeSession } from '../takes/session';
import { afterPress, NOTHING, type Shown, type Way } from './ways';

/** A press that is let go of before this is a click: what it shows stays. */
const CLICK_MS = 300;

/**
 * Which comparison is shown: as long as its key or button is held, or from one click to the next. Work on the treatment ends
 * the bare photograph, so that what is done is seen.
 */
export function useWay(session: TakeSession) {
  const [shown, setShown] = useState<Shown>(NOTHING);
  const pressed = useRef<{ way: Way; at: number; before: Shown } | null>(null);
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  });
  const press = useMemo(() => {
    const begin = (way: Way) => {
      pressed.current = { way, at: performance.now(), before: latest.current };
      setShown({ way, kept: false });
    };
    const end = () => {
      if (!pressed.current) return;
      const { way, at, before } = pressed.current;
      pressed.current = null;
      setShown(afterPress(way, before, performance.now() - at < CLICK_MS));
    };
    const of = (way: Way) => ({ begin: () => begin(way), end });
    return { bare: of('bare'), half: of('half'), side: of('side') };
  }, []);
  const isBareKept = shown.way === 'bare' && shown.kept;
  useEffect(() => {
    if (!isBareKept) return;
    const { treatment } = session.state();
    const stop = session.subscribe(() => {
      if (session.state().treatment !== treatment) setShown(NOTHING);
    });
    return () => void stop();
  }, [isBareKept, session]);
  return { shown, press, show: setShown };
}
