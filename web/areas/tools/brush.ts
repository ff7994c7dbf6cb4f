import type { Stroke } from '../../../core/settings/fields';
import { addStroke } from '../../../core/treatment/areas';
import type { HeldKeys, Live, Place, ToolDrag } from '../../print/tool';
import { addPoint, pointOf, toPhotograph } from '../on-photograph';
import type { AreaAtWork } from './area-at-work';

/** Paints an area, or takes away from it: each stroke is drawn as the hand moves, and is one change. */
export function paintWith({ area, picture, session, store, lookedAt }: AreaAtWork) {
  return (at: Place, keys: HeldKeys, live: Live): ToolDrag => {
    const start = session.state().treatment;
    const base = lookedAt(start);
    const place = toPhotograph(picture, start);
    const { brush, tool, taking, ended } = store.getState();
    const { radius, hardness, flow } = brush;
    const keepEdges = tool === 'edges' ? brush.keepEdges : 0;
    const erase = taking !== keys.alt;
    const point = (p: Place) => pointOf(place, p);
    const from = keys.shift && ended?.area === area ? [ended.point] : [];
    const points = [...from, point(at)];
    const stroke = (): Stroke => ({ points: points.slice(), radius, hardness, flow, erase, keepEdges });
    session.pen(true);
    live.stroke(base, area, stroke());
    return {
      live: true,
      move: (to: Place) => {
        if (addPoint(points, point(to), radius, picture)) live.stroke(base, area, stroke());
      },
      end: () => {
        store.setState({ ended: { area, point: points.at(-1)! } });
        session.commit(
          addStroke(start, area, stroke()),
          erase ? 'Take away from the area' : 'Paint the area',
          { apart: true },
        );
        session.pen(false);
      },
      cancel: () => {
        session.pen(false);
        session.preview(start);
      },
    };
  };
}
