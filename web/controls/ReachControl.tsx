import { useRef } from 'react';
import styled from 'styled-components';
import { Movable } from '../ui/movable';
import type { ToneRange } from '../../core/settings/fields';

const Frame = styled.div`
  padding: 2px 0 8px;
  .name {
    display: flex;
    justify-content: space-between;
    height: 22px;
    align-items: center;
    color: var(--ink-2);
  }
  .scale {
    position: relative;
    height: 34px;
    margin: 0 7px;
    touch-action: none;
  }
  .ramp {
    position: absolute;
    inset: 8px 0 8px;
    border-radius: 3px;
    background: linear-gradient(90deg, #000, #fff);
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.25);
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
    pointer-events: none;
  }
  .end {
    position: absolute;
    width: 12px;
    height: 12px;
    margin: -6px 0 0 -6px;
    border-radius: 50%;
    background: var(--paper-high);
    border: 1.5px solid var(--ink);
    cursor: ew-resize;
    outline: none;
  }
  .end:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
    background: var(--lamp);
  }
`;

const zones = ['0', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'];
const zoneOf = (v: number) => zones[Math.round(v * 10)];
const endNames = ['begins at', 'is whole from', 'is whole to', 'ends at'];

/** The range of tones that a step touches, as ramps with four ends that can be split. */
export function ReachControl({
  label,
  range,
  onChange,
}: {
  label: string;
  range: ToneRange;
  /** With true when it has come to rest. */
  onChange: (range: ToneRange, done: boolean) => void;
}) {
  const scale = useRef<HTMLDivElement>(null);
  const from = useRef(range);
  const last = useRef<ToneRange | null>(null);
  const moved = (end: number, by: number): ToneRange => {
    const { current: before } = from;
    const next = before.slice() as ToneRange;
    const to = Math.min(before[end + 1] ?? 1, Math.max(before[end - 1] ?? 0, before[end] + by));
    next[end] = Math.round(to * 1000) / 1000;
    return next;
  };
  const [a, b, c, d] = range;
  const whole = b <= 0 && c >= 1;
  return (
    <Frame>
      <div className="name">
        <span>{label}</span>
        <span>{whole ? 'All tones' : `Zones ${zoneOf((a + b) / 2)} to ${zoneOf((c + d) / 2)}`}</span>
      </div>
      <div ref={scale} className="scale">
        <div className="ramp" />
        <svg viewBox="0 0 100 34" preserveAspectRatio="none" aria-hidden="true">
          <path
            d={`M${a * 100},28L${b * 100},5L${c * 100},5L${d * 100},28`}
            fill="none"
            stroke="#fff"
            strokeWidth="4"
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={`M${a * 100},28L${b * 100},5L${c * 100},5L${d * 100},28`}
            fill="none"
            stroke="#1c1c1c"
            strokeWidth="1.75"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {range.map((v, end) => (
          <Movable
            key={end}
            as="div"
            className="end"
            role="slider"
            tabIndex={0}
            aria-label={`${label} ${endNames[end]}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(v * 100)}
            style={{ left: `${v * 100}%`, top: end === 0 || end === 3 ? 28 : 5 }}
            box={() => scale.current?.getBoundingClientRect()}
            near={0.01}
            far={0.1}
            begin={() => (from.current = range)}
            move={right => {
              last.current = moved(end, right);
              onChange(last.current, false);
            }}
            rest={() => {
              if (last.current) onChange(last.current, true);
              last.current = null;
            }}
          />
        ))}
      </div>
    </Frame>
  );
}
