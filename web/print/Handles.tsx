import { useRef } from 'react';
import styled from 'styled-components';
import type { Position } from '../../core/settings/fields';
import type { Handle, Outline } from '../../core/settings/handles';
import { Movable } from '../ui/movable';
import type { OnWall } from './tool';

const OverPicture = styled.div`
  position: absolute;
  pointer-events: none;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
  path {
    fill: none;
    stroke: #fff;
    stroke-width: 1.5;
    filter: drop-shadow(0 0 1px rgb(0 0 0 / 0.9));
    vector-effect: non-scaling-stroke;
    &[data-faint] {
      stroke-dasharray: 4 5;
      opacity: 0.8;
    }
  }
`;

const Grip = styled.button`
  position: absolute;
  width: 14px;
  height: 14px;
  margin: -7px;
  border-radius: 50%;
  background: #fff;
  border: 1.5px solid var(--ink);
  box-shadow: 0 1px 2px rgb(0 0 0 / 0.4);
  pointer-events: auto;
  touch-action: none;
  cursor: move;
  &[data-along-x] {
    cursor: ew-resize;
    border-radius: 3px;
  }
  &:focus-visible {
    background: var(--lamp);
    outline: 2px solid #fff;
  }
`;

/** Where the places of handles and outlines lie in the framed picture (fractions), and back. */
export interface Places {
  toFrame: (place: Position) => Position;
  fromFrame: (place: Position) => Position;
}

const asTheyAre: Places = { toFrame: place => place, fromFrame: place => place };

/** Handles and lines over the picture: what they set is shown while they move, and kept when they rest. */
export function Handles<S>({
  handles,
  outline,
  onWall,
  places = asTheyAre,
  onMove,
  onRest,
}: {
  handles: readonly Handle<S>[];
  outline: readonly Outline[];
  onWall: OnWall;
  places?: Places;
  onMove: (settings: S) => void;
  onRest: () => void;
}) {
  /** The handle as it was when it was taken hold of. */
  const from = useRef<Handle<S> | null>(null);
  const onPrint = (place: Position) => {
    const [x, y] = places.toFrame(place);
    return [x * onWall.width, y * onWall.height];
  };
  return (
    <OverPicture style={onWall}>
      <svg viewBox={`0 0 ${onWall.width} ${onWall.height}`} preserveAspectRatio="none" aria-hidden="true">
        {outline.map(({ points, faint }, i) => (
          <path
            key={i}
            data-faint={faint || undefined}
            d={`M${points.map(p => onPrint(p).join()).join('L')}`}
          />
        ))}
      </svg>
      {handles.map(handle => {
        const [left, top] = onPrint(handle.at);
        return (
          <Movable
            key={handle.name}
            as={Grip}
            data-along-x={handle.alongX || undefined}
            aria-label={`${handle.name}. Arrow keys move it.`}
            style={{ left, top }}
            box={() => onWall}
            near={0.005}
            far={0.05}
            begin={() => (from.current = handle)}
            move={(right, down) => {
              const held = from.current ?? handle;
              const [x, y] = places.toFrame(held.at);
              onMove(held.move(places.fromFrame([x + right, y + down])));
            }}
            rest={() => {
              from.current = null;
              onRest();
            }}
          />
        );
      })}
    </OverPicture>
  );
}
