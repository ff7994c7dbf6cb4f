import { useEffect } from 'react';
import { create } from 'zustand';
import { addressOf } from '../../contract/route';
import { getHealth } from '../../contract/health';

/**
 * What the page needs and cannot reach just now. Whoever finds it away says so here; then the server is asked until all
 * answers again, and those who listen go on.
 */
export type Away = 'server' | 'database' | 'disk';

interface State {
  away: Away | null;
  /** Counts the times that all has come back. */
  returns: number;
  /** How many parts of the screen say it themselves, and what is not saved: then it is not said once more. */
  tellers: number;
}

export const useAway = create<State>(() => ({ away: null, returns: 0, tellers: 0 }));

const EVERY_MS = 1500;
let timer: ReturnType<typeof setTimeout> | undefined;

/** What is away at the moment; null where all answers. */
async function missing(): Promise<Away | null> {
  try {
    const response = await fetch(addressOf(getHealth, {}), { signal: AbortSignal.timeout(10_000) });
    if (response.status !== 503) return null;
    const { disk } = (await response.json()) as { disk?: string };
    return disk === 'full' ? 'disk' : 'database';
  } catch {
    return 'server';
  }
}

function askAgain(): void {
  timer = setTimeout(() => {
    void missing().then(away => {
      timer = undefined;
      if (away) {
        useAway.setState({ away });
        askAgain();
      } else useAway.setState(({ returns }) => ({ away: null, returns: returns + 1 }));
    });
  }, EVERY_MS);
}

/** Says that something is away; what it is, the server is asked about itself. */
export function noteAway(away: Away): void {
  if (useAway.getState().away === null) useAway.setState({ away });
  if (timer === undefined) askAgain();
}

/** Calls a function whenever all has come back; gives one that ends that. */
export const onReturn = (listener: () => void): (() => void) =>
  useAway.subscribe((now, before) => {
    if (now.returns !== before.returns) listener();
  });

/** As long as it is there, this part of the screen says what is away. */
export function useTellsAway(): void {
  useEffect(() => {
    const add = (by: 1 | -1) => useAway.setState(({ tellers }) => ({ tellers: tellers + by }));
    add(1);
    return () => add(-1);
  }, []);
}
