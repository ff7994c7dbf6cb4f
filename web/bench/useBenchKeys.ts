import { useCallback } from 'react';
import { useKeys } from '../app/useKeys';
import { useBench, useBenchState } from './work';

/** The keys of the Bench that no part of it has by itself. */
export function useBenchKeys({
  alternate,
  carryOver,
}: {
  alternate: (by: -1 | 1) => void;
  carryOver: () => void;
}): void {
  const bench = useBench();
  const { session, toggle, setAlone, press, release } = bench;
  const alone = useBenchState(s => s.alone);
  const endAlone = useCallback(() => {
    setAlone(false);
    if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
  }, [setAlone]);
  const toggleAlone = () => {
    if (alone) return endAlone();
    setAlone(true);
    // Where the browser lets it, over the whole screen as well.
    void document.documentElement.requestFullscreen?.().catch(() => undefined);
  };
  useKeys({ giveUp: endAlone }, alone);
  useKeys({
    alone: toggleAlone,
    history: () => toggle({ what: 'history' }),
    looks: () => toggle({ what: 'looks' }),
    methods: () => toggle({ what: 'methods' }),
    tint: () => toggle({ what: 'tint' }),
    either: ({ repeat, shiftKey }) => {
      if (!repeat) alternate(shiftKey ? -1 : 1);
    },
    carryOver,
    undo: () => void session.undo(),
    redo: () => void session.redo(),
    bare: { hold: () => press('bare'), release },
    half: { hold: () => press('half'), release },
    side: { hold: () => press('side'), release },
  });
}
