import { createContext, useContext } from 'react';
import type { Step, Treatment } from '../../core/treatment/treatment';
import type { PickColour } from '../print/usePicking';
import type { PictureInfo } from '../engine/tiles';
import type { Edits } from '../takes/edits';
import type { Tried } from '../takes/tried';

/** What a control may need besides its own value. */
export interface BenchTools {
  picture: PictureInfo;
  treatment: Treatment;
  /** The step that is being set. */
  step: Step;
  commit: (treatment: Treatment, label: string) => void;
  /** An edit that must be looked for first; stays the same function. */
  editWhenFound: Edits['editWhenFound'];
  /** Shows a treatment that is not yet chosen. */
  preview: (treatment: Treatment) => void;
  /** Shows something in the print while it is pointed at; stays the same function. */
  tryOn: (tried: Tried | null) => void;
  /** Lets a colour be picked on the picture. */
  pick: PickColour;
}

export const ToolsContext = createContext<BenchTools | null>(null);

export function useTools(): BenchTools {
  const tools = useContext(ToolsContext);
  if (!tools) throw new Error('a control outside of the Bench');
  return tools;
}

/** The series that the photograph lies in; null outside of one. */
export const SeriesContext = createContext<string | null>(null);

/** The long edge of the photograph in pixels, which lengths are told in; 0 where there is none. */
export const LongEdgeContext = createContext(0);

/** Told which settings are held, by their paths, and that none is. Stays the same function. */
export type Hold = (paths: readonly (readonly string[])[]) => void;

export const HoldContext = createContext<Hold>(() => undefined);
