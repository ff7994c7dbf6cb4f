import { useRef, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { Movable } from '../ui/movable';
import type { Rectangle } from '../../core/frame/geometry';

const Line = styled.div`
  position: absolute;
  background: #fff;
  box-shadow: 0 0 0 0.5px rgb(0 0 0 / 0.55);
  pointer-events: none;
`;

const Grip = styled.div`
  position: absolute;
  pointer-events: auto;
  touch-action: none;
  display: grid;
  place-items: center;
  outline: none;
  &::after {
    content: '';
    width: 16px;
    height: 36px;
    border-radius: 6px;
    background: #fff;
    border: 1px solid var(--ink);
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.4);
  }
  &[data-down]::after {
    width: 36px;
    height: 16px;
  }
  &:focus-visible::after {
    background: var(--lamp);
    outline: 2px solid #fff;
  }
`;

/** The line between two halves of the picture: dragged, moved by arrow keys, laid the other way by a double click or Enter. */
export function PartingLine({
  seen,
  line,
  down,
  onLine,
  onTurn,
}: {
  /** What is seen of the picture, in CSS pixels of the wall. */
  seen: Rectangle;
  /** A share of that. */
  line: number;
  /** One half is above the other. */
  down: boolean;
  onLine: (line: number) => void;
  onTurn: (down: boolean) => void;
}) {
  const from = useRef(line);
  const at = down ? seen.y + seen.height * line : seen.x + seen.width * line;
  const middle = down ? seen.x + seen.width / 2 : seen.y + seen.height / 2;
  const turn = () => onTurn(!down);
  return (
    <>
      <Line
        style={
          down
            ? { left: seen.x, width: seen.width, top: at - 1, height: 2 }
            : { top: seen.y, height: seen.height, left: at - 1, width: 2 }
        }
      />
      <Movable
        as={Grip}
        data-parting
        data-down={down || undefined}
        role="slider"
        tabIndex={0}
        aria-label="Line between the halves. Enter lays it the other way."
        aria-orientation={down ? 'vertical' : 'horizontal'}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(line * 100)}
        style={
          down
            ? { left: middle - 26, top: at - 14, width: 52, height: 28, cursor: 'ns-resize' }
            : { left: at - 14, top: middle - 26, width: 28, height: 52, cursor: 'ew-resize' }
        }
        box={() => seen}
        near={0.01}
        far={0.1}
        begin={() => (from.current = line)}
        move={(right, below, byKey) => {
          const by = byKey ? right || below : down ? below : right;
          onLine(Math.min(1, Math.max(0, (byKey ? line : from.current) + by)));
        }}
        onDoubleClick={turn}
        onKeyDown={(event: KeyboardEvent) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          turn();
        }}
      />
    </>
  );
}
