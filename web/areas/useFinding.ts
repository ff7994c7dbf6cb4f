import { useCallback, useEffect, useMemo, useState } from 'react';
import { hasFound, mend } from '../../core/treatment/rough-strokes';
import type { Treatment } from '../../core/treatment/treatment';
import { readyToFind } from '../engine/client';
import type { PictureInfo } from '../engine/tiles';
import type { HeldKeys, Place, ToolDrag } from '../print/tool';
import type { TakeSession } from '../takes/session';
import { tell } from '../app/notices';
import { roughDrag, roughPoint, type Rough } from './rough-drag';
import { useRest } from './useRest';

/** The area finder in the hand: rough strokes, and what would be found where the pointer rests. */

export interface Finding {
  /** The stroke that is being drawn. */
  drawn: Rough | null;
  /** A treatment with what would be found where the pointer rests. */
  withHint: (treatment: Treatment) => Treatment;
  press: (at: Place, keys: HeldKeys) => ToolDrag | null;
  hover: (at: Place | null) => void;
}

/**
 * @param taking strokes say what is not meant
 * @param around the first stroke goes around what is meant
 */
export function useFinding(
  picture: PictureInfo,
  session: TakeSession,
  area: string | null,
  radius: number,
  taking: boolean,
  around: boolean,
): Finding {
  const [drawn, setDrawn] = useState<Rough | null>(null);
  const [hint, setHint] = useState<{ area: string; rough: Rough } | null>(null);
  const rest = useRest();
  const forget = useCallback(() => {
    rest.moved();
    setHint(null);
  }, [rest]);
  useEffect(() => forget, [forget, area, taking, around]);
  useEffect(() => {
    if (area !== null) readyToFind(picture);
  }, [area, picture]);

  const press = useCallback(
    (at: Place, keys: HeldKeys): ToolDrag | null => {
      if (area === null) return null;
      forget();
      const start = session.state().treatment;
      // Around a thing, where nothing was found yet: what lies beyond is not meant.
      const isFirstAround = (around || keys.shift) && !hasFound(start, area);
      const isOut = isFirstAround || taking !== keys.alt;
      return roughDrag(picture, session, at, radius, isOut, setDrawn, stroke => {
        const made = mend(start, area, stroke, isOut);
        if (made !== start) session.commit(made, isOut ? 'Not this' : 'Find this', { apart: true });
        else if (isFirstAround) tell({ text: 'Go all the way around it, back to where you began.' });
        else tell({ text: 'There is nothing to take away from yet.' });
      });
    },
    [area, picture, session, radius, taking, around, forget],
  );

  const hover = useCallback(
    (at: Place | null) => {
      forget();
      // What is there already is mended by strokes, and not covered by what might be found elsewhere.
      if (at === null || area === null || around || hasFound(session.state().treatment, area)) return;
      rest.then(() => {
        const stroke = roughPoint(picture, session.state().treatment, at, radius);
        setHint({ area, rough: { stroke, isOut: taking } });
      });
    },
    [area, picture, session, radius, taking, around, forget, rest],
  );

  const withHint = useCallback(
    (treatment: Treatment) =>
      hint && hint.area === area
        ? mend(treatment, hint.area, hint.rough.stroke, hint.rough.isOut)
        : treatment,
    [hint, area],
  );
  return useMemo(() => ({ drawn, withHint, press, hover }), [drawn, withHint, press, hover]);
}
