import { framedSize } from '../../../core/frame/geometry';
import type { MaskPart } from '../../../core/masks/parts';
import { addPart, areaOf } from '../../../core/treatment/areas';
import type { Treatment } from '../../../core/treatment/treatment';
import type { HeldKeys, Place, ToolDrag } from '../../print/tool';
import { toPhotograph } from '../on-photograph';
import type { AreaAtWork } from './area-at-work';

/** Drags a straight gradient, or an oval from its middle. */
export function dragShape({ area, picture, session, store }: AreaAtWork) {
  return (at: Place, keys: HeldKeys): ToolDrag => {
    const start = session.state().treatment;
    const place = toPhotograph(picture, start);
    const size = framedSize(picture, start.frame);
    const longEdge = Math.max(picture.width, picture.height);
    const { tool, taking } = store.getState();
    const takes = taking !== keys.alt;
    // In an empty area what takes away has nothing to take from.
    const op = takes && areaOf(start, area)!.parts.length > 0 ? 'subtract' : 'add';
    let made: Treatment | null = null;
    return {
      move: (to: Place) => {
        const across = Math.abs(to.x - at.x) * size.width;
        const down = Math.abs(to.y - at.y) * size.height;
        if (Math.hypot(across, down) < 4) return;
        const part: MaskPart =
          tool === 'linear'
            ? { kind: 'linear', op, from: place(at), to: place(to), softness: 1 }
            : {
                kind: 'oval',
                op,
                centre: place(at),
                radii: [Math.max(across, 2) / longEdge, Math.max(keys.shift ? across : down, 2) / longEdge],
                angle: 0,
                feather: 0.4,
                outside: false,
              };
        made = addPart(start, area, part);
        session.preview(made);
      },
      end: () => {
        if (made) session.commit(made, tool === 'linear' ? 'Straight gradient' : 'Oval', { apart: true });
      },
    };
  };
}
