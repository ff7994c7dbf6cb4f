import { useEffect, useRef, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { useMergedProps } from '../ui/useMergedProps';
import { useMovable } from '../ui/movable';

/** Half of the handle, and how far from an end of what is in sight it stays. */
const HALF = 20;

/** What the lamp runs along: the whole line. */
const Track = styled.div`
  position: absolute;
  inset: 0;
  z-index: 2;
  pointer-events: none;
  display: flex;
`;

/** Where its place is out of sight it stays in reach, at that end of what is seen. */
const Handle = styled.div`
  position: sticky;
  left: 0;
  right: 0;
  flex: none;
  width: ${2 * HALF}px;
  height: 100px;
  pointer-events: none;
  svg {
    overflow: visible;
    outline: none;
  }
  .grip {
    pointer-events: auto;
    cursor: ew-resize;
    touch-action: none;
  }
  &:focus-visible {
    outline: none;
  }
  &:focus-visible .grip rect {
    stroke-width: 3;
  }
`;

/** How near to an end of what is in sight the line is scrolled on, in pixels. */
const AHEAD = 60;

/** A place where the lamp can stand. */
export interface LampStop {
  /** From the left of the line, in pixels. */
  x: number;
  /** How many steps it lights there. */
  lit: number;
  /** The name of the last of them. */
  after: string;
}

/** The lamp on the tray line: the picture is shown as treated up to it. Dragged, or moved by arrow keys. */
export function Lamp({
  stops,
  lit,
  onMove,
}: {
  /** From left to right; the first lights nothing. */
  stops: readonly LampStop[];
  lit: number;
  onMove: (lit: number) => void;
}) {
  const handle = useRef<HTMLDivElement>(null);
  const last = stops.length - 1;
  const at = Math.max(
    0,
    stops.findLastIndex(s => s.lit <= lit),
  );

  const { x } = stops[at];
  /** Where it was taken hold of: its place as it is seen, and how far the line was scrolled. */
  const from = useRef({ x: 0, scrolled: 0 });
  const scroll = () => handle.current?.closest('[data-scroll]') ?? null;
  // Its place comes into sight as it is moved to it, not as the line is opened.
  const wasAt = useRef(at);
  const byHand = useRef(false);
  useEffect(() => {
    const line = handle.current?.closest('[data-scroll]');
    const by = at - wasAt.current;
    if (!line || by === 0) return;
    wasAt.current = at;
    const seen = x - line.scrollLeft;
    // A hand that drags away from an end does not move the line under itself.
    const may = (way: number) => !byHand.current || by * way > 0;
    if (seen < AHEAD && may(-1)) line.scrollLeft = x - 2 * AHEAD;
    else if (seen > line.clientWidth - AHEAD && may(1)) line.scrollLeft = x - line.clientWidth + 2 * AHEAD;
  }, [at, x]);
  const moveTo = (next: number) => onMove(stops[Math.min(last, Math.max(0, next))].lit);
  const moveProps = useMovable({
    box: () => ({ width: 1, height: 1 }),
    near: 1,
    far: 1,
    begin: () => {
      from.current = { x: (handle.current?.offsetLeft ?? 0) + HALF, scrolled: scroll()?.scrollLeft ?? 0 };
    },
    move: (right, _down, byKey) => {
      byHand.current = !byKey;
      if (byKey) {
        moveTo(at + right);
        return;
      }
      const here = from.current.x + right + (scroll()?.scrollLeft ?? 0) - from.current.scrolled;
      let nearest = 0;
      stops.forEach((stop, i) => {
        if (Math.abs(stop.x - here) < Math.abs(stops[nearest].x - here)) nearest = i;
      });
      if (nearest !== at) moveTo(nearest);
    },
  });
  const onKey = (event: KeyboardEvent) => {
    const next = { Home: 0, End: last }[event.key];
    if (next === undefined) return;
    event.preventDefault();
    byHand.current = false;
    moveTo(next);
  };
  const handlers = useMergedProps(moveProps, {
    onKeyDown: onKey,
    onPointerDown: () => handle.current?.focus(),
  });

  return (
    <Track>
      {/* No margin, which a handle that stays in sight would not leave. */}
      <span style={{ flex: 'none', width: Math.max(0, x - HALF) }} />
      <Handle
        ref={handle}
        role="slider"
        tabIndex={0}
        aria-label="Lamp: the picture is shown as treated up to here"
        aria-orientation="horizontal"
        aria-valuemin={0}
        aria-valuemax={last}
        aria-valuenow={at}
        aria-valuetext={at === 0 ? 'Bare' : `After ${stops[at].after}`}
        {...handlers}
      >
        <svg width="40" height="100" viewBox="0 0 40 100" aria-hidden="true">
          <defs>
            <linearGradient id="beam" x1="0" y1="0" x2="0" y2="1">
              <stop offset="0" stopColor="#e8a04a" stopOpacity=".62" />
              <stop offset="1" stopColor="#e8a04a" stopOpacity="0" />
            </linearGradient>
          </defs>
          <path d="M16 54h8l7.500 46h-23z" fill="url(#beam)" />
          <g className="grip">
            <rect x="4" y="16" width="32" height="42" fill="transparent" stroke="none" />
            <path d="M20 24v14" stroke="#1c1c1c" strokeWidth="1.600" />
            <rect
              x="14"
              y="20.500"
              width="12"
              height="8"
              rx="4"
              fill="#f8f8f8"
              stroke="#1c1c1c"
              strokeWidth="1.500"
            />
            <path
              d="M15.800 51.400a4.200 4.600 0 0 0 8.400 0z"
              fill="#fff6e6"
              stroke="#6b3d09"
              strokeWidth="1"
            />
            <path
              d="M17.600 37.500h4.800l.9 3.600c3.300 1.700 6.200 5 7.400 10.300h-21.400c1.200-5.300 4.100-8.600 7.400-10.300z"
              fill="var(--lamp)"
              stroke="#6b3d09"
              strokeWidth="1"
              strokeLinejoin="round"
            />
          </g>
        </svg>
      </Handle>
    </Track>
  );
}
