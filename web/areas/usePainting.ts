import { useCallback, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { showingArea } from '../../core/treatment/areas';
import type { Step, Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import { useKeys } from '../app/useKeys';
import type { TakeSession } from '../takes/session';
import type { PictureTool } from '../print/tool';
import {
  createPainting,
  isBrush,
  RADIUS,
  resizeBrush,
  turnTaking,
  type AreaTool,
  type PaintingState,
} from './painting-store';
import { paintWith } from './tools/brush';
import { seizeLike } from './tools/likeness';
import { dragShape } from './tools/shapes';
import { useFinding, type Finding } from './useFinding';

/** How the chosen step's area is worked on. */
export interface Painting extends Omit<PaintingState, 'ended'> {
  /** The area of the chosen step; null where that lies on the whole picture. */
  area: string | null;
  finding: Finding;
  set: (change: Partial<Omit<PaintingState, 'ended'>>) => void;
  /** A treatment as it is looked at: lit, its area shown. */
  lookedAt: (treatment: Treatment) => Treatment;
  pictureTool: PictureTool | null;
}

/** What the hand does with each tool. */
export const toolNames: Record<AreaTool, string> = {
  brush: 'Paint the area; hold Alt to take away, Shift for a straight line.',
  edges: 'Paint within the edges of what the stroke begins on; hold Alt to take away.',
  finder: 'Draw roughly on a thing to find it; hold Alt for what is not meant, Shift to go around it.',
  linear: 'Drag a straight gradient, from full to nothing.',
  oval: 'Drag an oval from its middle.',
  tones: 'Press on a tone to add all that are like it.',
  hues: 'Press on a colour to add all that have its hue.',
};

/** @param lit what of a treatment the lamp lights */
export function usePainting(
  picture: PictureInfo,
  session: TakeSession,
  step: Step | undefined,
  lit: (treatment: Treatment) => Treatment,
): Painting {
  const [store] = useState(createPainting);
  const state = useStore(store);
  const area = step?.mask ?? null;
  useKeys(
    {
      smaller: () => resizeBrush(store, 1 / RADIUS.factor),
      larger: () => resizeBrush(store, RADIUS.factor),
      taking: () => turnTaking(store),
    },
    area !== null,
  );

  const { shown, film, tool } = state;
  const finding = useFinding(
    picture,
    session,
    tool === 'finder' ? area : null,
    state.brush.rough,
    state.taking,
    state.around,
  );
  const { withHint } = finding;
  const lookedAt = useCallback(
    (treatment: Treatment) =>
      area === null ? lit(treatment) : showingArea(withHint(lit(treatment)), area, shown, film),
    [area, lit, shown, film, withHint],
  );

  const pictureTool = useMemo<PictureTool | null>(() => {
    if (area === null) return null;
    const at = { area, picture, session, store, lookedAt };
    const presses: Record<AreaTool, PictureTool['press']> = {
      brush: paintWith(at),
      edges: paintWith(at),
      finder: finding.press,
      linear: dragShape(at),
      oval: dragShape(at),
      tones: seizeLike(at),
      hues: seizeLike(at),
    };
    return {
      cursor: isBrush(tool) ? 'none' : 'crosshair',
      name: toolNames[tool],
      press: presses[tool],
      hover: tool === 'finder' ? finding.hover : undefined,
      anywhere: tool !== 'tones' && tool !== 'hues',
      turn:
        isBrush(tool) || tool === 'finder' ? steps => resizeBrush(store, RADIUS.factor ** steps) : undefined,
    };
  }, [area, picture, session, store, lookedAt, tool, finding]);

  return useMemo(
    () => ({ area, ...state, finding, set: store.setState, lookedAt, pictureTool }),
    [area, state, finding, store, lookedAt, pictureTool],
  );
}
