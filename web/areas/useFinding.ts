import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Stroke } from '../../core/settings/fields';
import { hasFound } from '../../core/treatment/areas';
import { mend } from '../../core/treatment/spreads';
import type { Treatment } from '../../core/treatment/schema';
import type { PictureInfo } from '../engine/tiles';
import type { HeldKeys, Place, ToolDrag } from '../print/tool';
import type { TakeSession } from '../takes/session';
import { addPoint, pointOf, toPhotograph } from './on-photograph';

/** The area finder in the hand: rough strokes, and what would be found where the pointer rests. */

/** A rough stroke under way, or where the pointer rests. */
export interface Rough {
  stroke: Stroke;
  isOut: boolean;
}

export interface Finding {
  /** The stroke that is being drawn. */
  drawn: Rough | null;
  /** A treatment with what would be found where the pointer rests. */
  withHint: (treatment: Treatment) => Treatment;
  press: (at: Place, keys: HeldKeys) => ToolDrag | null;
  hover: (at: Place | null) => void;
}

/** The pointer rests when it has not moved for so long. */
const REST_MS = 140;

/** A rough stroke through points. */
export const roughStroke = (points: [number, number, number][], radius: number): Stroke => ({
  points,
  radius,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

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
  const rest = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const forget = useCallback(() => {
    clearTimeout(rest.current);
    setHint(null);
  }, []);
  useEffect(() => forget, [forget, area, taking, around]);

  const press = useCallback(
    (at: Place, keys: HeldKeys): ToolDrag | null => {
      if (area === null) return null;
      forget();
      const start = session.state().treatment;
      const place = toPhotograph(picture, start);
      // Around a thing, where nothing was found yet: what lies beyond is not meant.
      const isFirstAround = (around || keys.shift) && !hasFound(start, area);
      const isOut = isFirstAround || taking !== keys.alt;
      const points = [pointOf(place, at)];
      const stroke = () => roughStroke(points.slice(), radius);
      session.pen(true);
      setDrawn({ stroke: stroke(), isOut });
      const done = () => {
        session.pen(false);
        setDrawn(null);
      };
      return {
        move: to => {
          if (addPoint(points, pointOf(place, to), radius, picture)) setDrawn({ stroke: stroke(), isOut });
        },
        end: () => {
          done();
          session.commit(mend(start, area, stroke(), isOut), isOut ? 'Not this' : 'Find this', {
            apart: true,
          });
        },
        cancel: done,
      };
    },
    [area, picture, session, radius, taking, around, forget],
  );

  const hover = useCallback(
    (at: Place | null) => {
      clearTimeout(rest.current);
      setHint(null);
      // What is there already is mended by strokes, and not covered by what might be found elsewhere.
      if (at === null || area === null || around || hasFound(session.state().treatment, area)) return;
      rest.current = setTimeout(() => {
        const point = pointOf(toPhotograph(picture, session.state().treatment), at);
        setHint({ area, rough: { stroke: roughStroke([point], radius), isOut: taking } });
      }, REST_MS);
    },
    [area, picture, session, radius, taking, around],
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
