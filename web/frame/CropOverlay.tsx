import styled from 'styled-components';
import { turnedBy, type Crop } from '../../core/frame/crop';
import type { PictureInfo } from '../engine/tiles';
import type { OnWall } from '../print/tool';
import { Movable } from '../ui/movable';
import type { Framing } from './useFraming';

const OverPicture = styled.div`
  position: absolute;
  pointer-events: none;
  overflow: hidden;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  line {
    stroke: #fff;
    stroke-width: 2;
    filter: drop-shadow(0 0 1.5px #000);
  }
`;

const Area = styled.div`
  position: absolute;
  pointer-events: auto;
  touch-action: none;
  cursor: move;
  box-shadow:
    0 0 0 1px #fff,
    0 0 0 2px rgb(0 0 0 / 0.5),
    0 0 0 4000px rgb(40 40 40 / 0.62);
  background:
    linear-gradient(rgb(255 255 255 / 0.4), rgb(255 255 255 / 0.4)) 33.33% 0 / 1px 100% no-repeat,
    linear-gradient(rgb(255 255 255 / 0.4), rgb(255 255 255 / 0.4)) 66.67% 0 / 1px 100% no-repeat,
    linear-gradient(rgb(255 255 255 / 0.4), rgb(255 255 255 / 0.4)) 0 33.33% / 100% 1px no-repeat,
    linear-gradient(rgb(255 255 255 / 0.4), rgb(255 255 255 / 0.4)) 0 66.67% / 100% 1px no-repeat;
  &[data-still] {
    pointer-events: none;
  }
  &:focus-visible {
    outline: 3px solid var(--lamp);
  }
`;

const Handle = styled.button`
  position: absolute;
  width: 24px;
  height: 24px;
  margin: -12px;
  touch-action: none;
  &::after {
    content: '';
    position: absolute;
    inset: 6px;
    background: #fff;
    border: 1.5px solid var(--ink);
    border-radius: 2px;
  }
  &:focus-visible::after {
    background: var(--lamp);
    outline: 2px solid #fff;
  }
`;

/** Each handle: which sides it moves (-1 the first, 1 the second, 0 none). */
const handles = [
  { name: 'Top left', x: -1, y: -1, cursor: 'nwse-resize' },
  { name: 'Top', x: 0, y: -1, cursor: 'ns-resize' },
  { name: 'Top right', x: 1, y: -1, cursor: 'nesw-resize' },
  { name: 'Right', x: 1, y: 0, cursor: 'ew-resize' },
  { name: 'Bottom right', x: 1, y: 1, cursor: 'nwse-resize' },
  { name: 'Bottom', x: 0, y: 1, cursor: 'ns-resize' },
  { name: 'Bottom left', x: -1, y: 1, cursor: 'nesw-resize' },
  { name: 'Left', x: -1, y: 0, cursor: 'ew-resize' },
] as const;

const LEAST = 0.02;
const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));

/** A crop with a handle moved by dx, dy (fractions); a ratio (of fractions) is kept where there is one. */
function dragged(
  from: Crop,
  { x, y }: { x: number; y: number },
  dx: number,
  dy: number,
  ratio: number | null,
): Crop {
  const right = from.x + from.width;
  const bottom = from.y + from.height;
  let width = x === 0 ? from.width : clamp(from.width + x * dx, LEAST, x < 0 ? right : 1 - from.x);
  let height = y === 0 ? from.height : clamp(from.height + y * dy, LEAST, y < 0 ? bottom : 1 - from.y);
  if (ratio !== null) {
    if (y === 0 || (x !== 0 && width / ratio >= height)) height = width / ratio;
    else width = height * ratio;
    const most = {
      width: x < 0 ? right : x > 0 ? 1 - from.x : 1,
      height: y < 0 ? bottom : y > 0 ? 1 - from.y : 1,
    };
    const less = Math.min(1, most.width / width, most.height / height);
    width *= less;
    height *= less;
  }
  const left = x < 0 ? right - width : x > 0 ? from.x : from.x + (from.width - width) / 2;
  const top = y < 0 ? bottom - height : y > 0 ? from.y : from.y + (from.height - height) / 2;
  return { x: clamp(left, 0, 1 - width), y: clamp(top, 0, 1 - height), width, height };
}

const movedBy = (from: Crop, dx: number, dy: number): Crop => ({
  ...from,
  x: clamp(from.x + dx, 0, 1 - from.width),
  y: clamp(from.y + dy, 0, 1 - from.height),
});

/** The crop on the picture, moved and drawn by pointer or arrow keys, and lines that are drawn. */
export function CropOverlay({
  framing,
  picture,
  onWall,
}: {
  framing: Framing;
  picture: PictureInfo;
  onWall: OnWall;
}) {
  const { crop } = framing.frame;
  const turned = turnedBy(picture, framing.frame);
  const ratio = framing.ratio === null ? null : (framing.ratio * turned.height) / turned.width;

  /** How the crop is moved by one of its handles, or as a whole. */
  const moves = (to: (from: Crop, dx: number, dy: number) => Crop) => ({
    box: () => onWall,
    near: 0.005,
    far: 0.05,
    from: crop,
    move: (dx: number, dy: number, _: boolean, from: Crop) => framing.cropTo(to(from, dx, dy), crop),
    rest: () => framing.cropRests(),
  });
  return (
    <OverPicture style={onWall}>
      <Movable
        as={Area}
        {...moves(movedBy)}
        data-still={framing.drawing !== null || undefined}
        role="group"
        aria-label="Crop. Arrow keys move it."
        tabIndex={0}
        style={{
          left: `${crop.x * 100}%`,
          top: `${crop.y * 100}%`,
          width: `${crop.width * 100}%`,
          height: `${crop.height * 100}%`,
        }}
      >
        {framing.drawing
          ? null
          : handles.map(handle => (
              <Movable
                key={handle.name}
                as={Handle}
                {...moves((crop, dx, dy) => dragged(crop, handle, dx, dy, ratio))}
                aria-label={`${handle.name} of the crop`}
                style={{
                  left: `${50 + 50 * handle.x}%`,
                  top: `${50 + 50 * handle.y}%`,
                  cursor: handle.cursor,
                }}
              />
            ))}
      </Movable>
      <svg aria-hidden="true">
        {framing.lines.map(([a, b], i) => (
          <line key={i} x1={`${a.x * 100}%`} y1={`${a.y * 100}%`} x2={`${b.x * 100}%`} y2={`${b.y * 100}%`} />
        ))}
      </svg>
    </OverPicture>
  );
}
