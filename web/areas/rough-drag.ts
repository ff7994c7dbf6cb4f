import type { Stroke } from '../../core/settings/fields';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { Place, ToolDrag } from '../print/tool';
import type { TakeSession } from '../takes/session';
import { addPoint, pointOf, toPhotograph } from './on-photograph';

/** A rough stroke under way, meant or not. */
export interface Rough {
  stroke: Stroke;
  isOut: boolean;
}

/** A rough stroke through points. */
export const roughStroke = (points: [number, number, number][], radius: number): Stroke => ({
  points,
  radius,
  hardness: 1,
  flow: 1,
  erase: false,
  keepEdges: 0,
});

/** A rough stroke of one point, at a place of the picture in its frame. */
export const roughPoint = (picture: PictureInfo, treatment: Treatment, at: Place, radius: number): Stroke =>
  roughStroke([pointOf(toPhotograph(picture, treatment), at)], radius);

/**
 * Draws a rough stroke from a press on.
 * @param onDrawn told of it as it grows, and of nothing at its end
 * @param onEnd given the stroke when it is let go
 */
export function roughDrag(
  picture: PictureInfo,
  session: TakeSession,
  at: Place,
  radius: number,
  isOut: boolean,
  onDrawn: (rough: Rough | null) => void,
  onEnd: (stroke: Stroke) => void,
): ToolDrag {
  const place = toPhotograph(picture, session.state().treatment);
  const points = [pointOf(place, at)];
  const stroke = () => roughStroke(points.slice(), radius);
  const done = () => {
    session.pen(false);
    onDrawn(null);
  };
  session.pen(true);
  onDrawn({ stroke: stroke(), isOut });
  return {
    move: to => {
      if (addPoint(points, pointOf(place, to), radius, picture)) onDrawn({ stroke: stroke(), isOut });
    },
    end: () => {
      done();
      onEnd(stroke());
    },
    cancel: done,
  };
}
