import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import type { OnWall } from '../print/tool';

const Ring = styled.div`
  position: absolute;
  pointer-events: none;
  border-radius: 50%;
  border: 1.5px solid #fff;
  box-shadow:
    0 0 0 1px rgb(0 0 0 / 0.7),
    inset 0 0 0 1px rgb(0 0 0 / 0.5);
  transform: translate(-50%, -50%);
  visibility: hidden;
  &::before {
    content: '';
    position: absolute;
    inset: var(--soft);
    border-radius: 50%;
    border: 1px dashed rgb(255 255 255 / 0.9);
    filter: drop-shadow(0 0 1px #000);
  }
  &::after {
    content: attr(data-sign);
    position: absolute;
    left: calc(85.4% + 3px);
    top: calc(85.4% - 2px);
    font: 600 17px/1 var(--sans, sans-serif);
    color: #fff;
    text-shadow:
      0 0 2px #000,
      0 0 1px #000;
  }
`;

/** The brush under the pointer: its size, how far it is hard, and whether it adds or takes away. */
export function BrushCursor({
  radius,
  hardness,
  taking,
  onWall,
}: {
  /** CSS pixels. */
  radius: number;
  hardness: number;
  taking: boolean;
  onWall: OnWall;
}) {
  const ring = useRef<HTMLDivElement>(null);
  const [alt, setAlt] = useState(false);
  useEffect(() => {
    const element = ring.current!;
    const wall = element.offsetParent as HTMLElement;
    const follow = (event: PointerEvent) => {
      const box = wall.getBoundingClientRect();
      const over =
        event.target instanceof HTMLElement &&
        event.target.closest('[data-stage-of-picture]:not([data-on-other])') !== null;
      element.style.visibility = over ? 'visible' : 'hidden';
      element.style.left = `${event.clientX - box.left}px`;
      element.style.top = `${event.clientY - box.top}px`;
    };
    const keys = (event: KeyboardEvent) => setAlt(event.altKey);
    window.addEventListener('pointermove', follow);
    window.addEventListener('keydown', keys);
    window.addEventListener('keyup', keys);
    return () => {
      window.removeEventListener('pointermove', follow);
      window.removeEventListener('keydown', keys);
      window.removeEventListener('keyup', keys);
    };
  }, []);
  const side = Math.max(4, 2 * radius);
  const soft = { '--soft': `${(side / 2) * (1 - hardness)}px` } as React.CSSProperties;
  return (
    <Ring
      ref={ring}
      data-brush-cursor
      data-sign={taking !== alt ? '−' : '+'}
      style={{ width: side, height: side, left: onWall.left, top: onWall.top, ...soft }}
      aria-hidden="true"
    />
  );
}
