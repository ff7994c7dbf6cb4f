import { useEffect, useMemo, useRef } from 'react';

/** The pointer rests when it has not moved for so long. */
const REST_MS = 150;

export interface Rest {
  /** It has moved: what was to be done, or is under way, is for a place where it no longer is. */
  moved: () => void;
  /** Does something once it rests here; `isStill` says whether it still does. */
  then: (act: (isStill: () => boolean) => void) => void;
}

/** What is done while the pointer rests. */
export function useRest(): Rest {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const moves = useRef(0);
  const rest = useMemo((): Rest => {
    const moved = () => {
      clearTimeout(timer.current);
      moves.current++;
    };
    return {
      moved,
      then: act => {
        moved();
        const now = moves.current;
        timer.current = setTimeout(() => act(() => moves.current === now), REST_MS);
      },
    };
  }, []);
  useEffect(() => rest.moved, [rest]);
  return rest;
}
