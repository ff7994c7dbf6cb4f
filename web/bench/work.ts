import { createContext, use, useMemo, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { seenFor } from '../../core/treatment/alternatives';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { Beside } from '../engine/client';
import type { Copying } from '../laying/useCopying';
import type { Sharing } from '../laying/useSharing';
import type { MomentAction } from '../states/StatesBoard';
import type { SessionState } from '../takes/session';
import { pickedOf, type Bench, type BenchState } from './bench-store';

/** What every part of the Bench may need: the photograph, its take's Bench, and what is done with both. */
export interface Work {
  bench: Bench;
  photograph: Photograph;
  picture: PictureInfo;
  series: Series | undefined;
  /** Photographs that may be opened next. */
  beside: readonly Beside[];
  sharing: Sharing;
  copying: Copying;
  /**
   * Lays a treatment on, the last of its steps chosen, or the one that is named, and all of them lit; must stay the same function.
   * @param apart it is undone alone
   */
  lay: (treatment: Treatment, label: string, last?: string | null, apart?: boolean) => void;
  /** The same, undone alone whatever follows: a stroke of a pigment, a page of a method; must stay the same function. */
  layApart: (treatment: Treatment, label: string, last?: string) => void;
  /** Lays the last treatment on, as it was on the photograph before. */
  carryOver: () => void;
  openTake: (id: string) => void;
  /** What is done with a state of the history. */
  onMoment: (action: MomentAction, moment: { treatment: Treatment; label: string }) => void;
  /** Goes to the sheet of the series. */
  toSheet: () => void;
}

export const BenchContext = createContext<Bench | null>(null);
export const WorkContext = createContext<Work | null>(null);

export function useBench(): Bench {
  const bench = use(BenchContext);
  if (!bench) throw new Error('outside of a take that is worked on');
  return bench;
}

export function useWork(): Work {
  const work = use(WorkContext);
  if (!work) throw new Error('outside of the Bench');
  return work;
}

/** A part of what the Bench shows. */
export const useBenchState = <T>(select: (state: BenchState) => T): T => useStore(useBench().store, select);

/** The take with its newest treatment, a little later while a slider glides: for what follows each movement. */
export function usePaced(): SessionState {
  const { session } = useBench();
  return useSyncExternalStore(session.subscribe, session.paced);
}

/** The take without what is still moving. */
export function useRested(): SessionState {
  const { session } = useBench();
  return useSyncExternalStore(session.subscribe, session.rested);
}

/** The chosen step; of alternatives put aside the one that works in their place. */
export function useChosen(): string | null {
  const { treatment } = useRested();
  const picked = useBenchState(s => s.picked);
  return useMemo(() => seenFor(treatment, picked), [treatment, picked]);
}

/** The steps that a copy takes: several that were picked, or the chosen one. */
export function usePicked(): readonly string[] {
  const { treatment } = useRested();
  const range = useBenchState(s => s.range);
  const chosen = useChosen();
  return useMemo(() => pickedOf(treatment, range, chosen), [range, treatment, chosen]);
}
