import type { Rectangle } from '../../core/frame/geometry';
import { fitScale, type Placement, type Size } from '../engine/view';

/** How two pictures share the wall. */
export interface Split {
  /** One picture, half of it as one and half as the other; or two prints. */
  way: 'half' | 'side';
  /** One above the other; null where the shape of the picture decides. */
  down: boolean | null;
  /** Where the line between halves stands: a share of what is seen of the picture. */
  line: number;
}

/** Whether two prints hang larger one above the other. */
export function isHungDown(picture: Size, wall: Size, margin: number): boolean {
  const across = fitScale(picture, { ...wall, width: Math.floor(wall.width / 2) }, margin);
  const down = fitScale(picture, { ...wall, height: Math.floor(wall.height / 2) }, margin);
  return down > across;
}

/** Wall between two panes at least, so that two pictures that fill them are two. */
const GAP = 6;

/** Where two pictures hang: the first is left or above. Device pixels of the wall; both of one size. */
export function panesOf(wall: Size, way: Split['way'], down: boolean): [Rectangle, Rectangle] {
  if (way === 'half') {
    const all = { x: 0, y: 0, ...wall };
    return [all, all];
  }
  const width = down ? wall.width : Math.floor((wall.width - GAP) / 2);
  const height = down ? Math.floor((wall.height - GAP) / 2) : wall.height;
  const [x, y] = down ? [0, wall.height - height] : [wall.width - width, 0];
  return [
    { x: 0, y: 0, width, height },
    { x, y, width, height },
  ];
}

/** What is seen of a picture on its pane. */
export function seenOf(
  { x, y, width, height }: Omit<Placement, 'scale' | 'longEdge'>,
  pane: Size,
): Rectangle {
  const [left, top] = [Math.max(0, x), Math.max(0, y)];
  return {
    x: left,
    y: top,
    width: Math.max(0, Math.min(pane.width, x + width) - left),
    height: Math.max(0, Math.min(pane.height, y + height) - top),
  };
}

/** The halves of a pane on both sides of the line, in whole pixels, and where the line stands in it. */
export function halvesOf(
  pane: Size,
  seen: Rectangle,
  line: number,
  down: boolean,
): { at: number; halves: [Rectangle, Rectangle] } {
  const at = Math.round(down ? seen.y + seen.height * line : seen.x + seen.width * line);
  const { width, height } = pane;
  return {
    at,
    halves: down
      ? [
          { x: 0, y: 0, width, height: at },
          { x: 0, y: at, width, height: height - at },
        ]
      : [
          { x: 0, y: 0, width: at, height },
          { x: at, y: 0, width: width - at, height },
        ],
  };
}
