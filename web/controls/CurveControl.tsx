import { Plus } from 'lucide-react';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useMergedProps } from '../ui/useMergedProps';
import { useMovable } from '../ui/movable';
import styled from 'styled-components';
import { curveThrough } from '../../core/colour/curves';
import { beneathStep } from '../../core/treatment/beneath';
import type { CurvePoints } from '../../core/settings/fields';
import { smallPictures } from '../engine/client';
import { wordFor } from '../../words/words';
import { Button, Segments } from '../ui/buttons';
import { SHARE, TypedNumber } from '../ui/typed-number';
import type { SetSetting } from '../takes/edits';
import { useKept } from '../print/useKept';
import { useTools } from './tools';

const SIDE = 256;
/** Points nearer than this stand in one place. */
const NEAREST = 0.01;

const Frame = styled.div`
  padding: 10px 16px 6px;
  border-top: 1px solid var(--rule);
  > svg {
    width: 100%;
    aspect-ratio: 1;
    margin-top: 8px;
    overflow: visible;
    touch-action: none;
    cursor: crosshair;
    border-radius: 3px;
    background: var(--paper-high);
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.12);
  }
  .tones {
    fill: #d9d9d9;
  }
  .grid {
    stroke: #dcdcdc;
  }
  .straight {
    stroke: #b4b4b4;
    stroke-dasharray: 3 4;
  }
  .line {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
  }
  .point {
    fill: var(--paper-high);
    stroke: var(--ink);
    stroke-width: 2;
    cursor: grab;
    outline: none;
  }
  .point[data-chosen] {
    fill: var(--lamp);
    stroke: #6b3d09;
  }
  .point:focus-visible {
    stroke: var(--lamp-deep);
    stroke-width: 4;
  }
  .foot {
    display: grid;
    gap: 10px;
    margin-top: 8px;
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  .foot > div {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }
`;

const channels = ['all', 'red', 'green', 'blue', 'lightness'] as const;
type Channel = (typeof channels)[number];
const inks: Record<Channel, string> = {
  all: 'var(--ink)',
  red: '#a33',
  green: '#2c7a2c',
  blue: '#3355b0',
  lightness: '#555',
};

/** The tones of what lies beneath the step, as the outline of a histogram. */
function useTones(): string {
  const { picture, treatment, step } = useTools();
  const [outline, setOutline] = useState('');
  const beneath = useKept(beneathStep(treatment, step.id));
  useEffect(() => {
    let stale = false;
    const look = async () => {
      const { engine } = await smallPictures();
      const counts = await engine.tones(picture, beneath);
      if (stale) return;
      const most = Math.max(...counts.slice(2, -2), 1);
      const heights = counts.map(n => Math.min(1, n / most) * 0.8 * SIDE);
      const points = heights.map((h, i) => `${(i / (heights.length - 1)) * SIDE},${SIDE - h}`);
      setOutline(`M0,${SIDE}L${points.join('L')}L${SIDE},${SIDE}Z`);
    };
    void look().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [picture, beneath]);
  return outline;
}

/** A curve through points over the tones of the picture, for all channels, each of them, or lightness alone. */
export function CurveControl({
  path,
  values,
  set,
}: {
  path: readonly string[];
  values: Record<string, unknown>;
  set: SetSetting;
}) {
  const [channel, setChannel] = useState<Channel>('all');
  const [chosen, setChosen] = useState(0);
  const svg = useRef<SVGSVGElement>(null);
  /** The point that is held, as it was when it was taken hold of, and what it has made. */
  const held = useRef<{ index: number; x: number; y: number } | null>(null);
  const last = useRef<CurvePoints | null>(null);
  const tones = useTones();
  const points = values[channel] as CurvePoints;
  const at = curveThrough(points);
  const line = Array.from({ length: 129 }, (_, i) => `${i * 2},${SIDE - at(i / 128) * SIDE}`).join('L');
  const name = wordFor(channel).toLowerCase();

  const show = (next: CurvePoints) => set([...path, channel], next);
  const keep = (next: CurvePoints, what: string) => set([...path, channel], next, `${name}: ${what}`);

  const moved = (index: number, x: number, y: number): CurvePoints => {
    const low = index > 0 ? points[index - 1][0] + NEAREST : 0;
    const high = index < points.length - 1 ? points[index + 1][0] - NEAREST : 1;
    const next = points.slice();
    next[index] = [Math.min(high, Math.max(low, x)), Math.min(1, Math.max(0, y))];
    return next;
  };
  const without = (index: number) => {
    if (points.length <= 2) return;
    keep(
      points.filter((_, i) => i !== index),
      'point removed',
    );
    setChosen(Math.max(0, index - 1));
  };
  const place = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = svg.current!.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, 1 - (event.clientY - box.top) / box.height];
  };

  const press = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    const [x, y] = place(event);
    let index = points.findIndex(p => Math.hypot(p[0] - x, p[1] - y) < 0.045);
    last.current = null;
    held.current = null;
    if (index < 0) {
      index = points.findIndex(p => p[0] > x);
      if (index < 0) index = points.length;
      const crowded = points.some(p => Math.abs(p[0] - x) < NEAREST);
      if (crowded || points.length >= 32) return;
      const next = points.slice();
      // Near the line the tone is pinned where it is; elsewhere the curve is drawn to the pointer.
      next.splice(index, 0, [x, Math.abs(at(x) - y) < 0.05 ? at(x) : Math.min(1, Math.max(0, y))]);
      last.current = next;
      show(next);
    }
    const [fromX, fromY] = (last.current ?? points)[index];
    held.current = { index, x: fromX, y: fromY };
    setChosen(index);
  };
  const rest = () => {
    if (last.current) keep(last.current, 'point moved');
    last.current = null;
    held.current = null;
  };
  const moveProps = useMovable({
    box: () => svg.current?.getBoundingClientRect(),
    near: 0.01,
    far: 0.1,
    begin: () => {
      // By a key: the point that has the focus.
      held.current ??= { index: chosen, x: points[chosen][0], y: points[chosen][1] };
    },
    move: (right, down) => {
      if (!held.current) return;
      const { index, x, y } = held.current;
      last.current = moved(index, x + right, y - down);
      show(last.current);
    },
    rest,
  });
  const onKey = (event: KeyboardEvent, index: number) => {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return;
    without(index);
    event.preventDefault();
    event.stopPropagation();
  };
  const add = () => {
    let widest = 0;
    points.forEach((p, i) => {
      if (i + 1 < points.length && points[i + 1][0] - p[0] > points[widest + 1][0] - points[widest][0])
        widest = i;
    });
    const x = (points[widest][0] + points[widest + 1][0]) / 2;
    const next = points.slice();
    next.splice(widest + 1, 0, [x, at(x)]);
    keep(next, 'point added');
    setChosen(widest + 1);
  };

  const handlers = useMergedProps(moveProps, {
    onPointerDown: press,
    onPointerUp: rest,
    onPointerCancel: rest,
  });
  const here = Math.min(chosen, points.length - 1);
  const [x, y] = points[here];
  return (
    <Frame>
      <Segments
        label="Channel"
        value={channel}
        options={channels.map(c => ({
          value: c,
          text: c === 'lightness' ? 'L' : c === 'all' ? 'All' : wordFor(c),
        }))}
        onChange={c => {
          setChannel(c);
          setChosen(0);
        }}
      />
      <svg
        ref={svg}
        viewBox={`0 0 ${SIDE} ${SIDE}`}
        role="group"
        aria-label={`Curve, ${name}. Press to add a point, drag to move it, Delete removes it.`}
        {...handlers}
        onDoubleClick={event => {
          const [u, v] = place(event);
          const index = points.findIndex(p => Math.hypot(p[0] - u, p[1] - v) < 0.045);
          if (index >= 0) without(index);
        }}
      >
        <path className="tones" d={tones} />
        {[1, 2, 3].map(i => (
          <path key={i} className="grid" d={`M${i * 64},0V${SIDE}M0,${i * 64}H${SIDE}`} />
        ))}
        <path className="straight" d={`M0,${SIDE}L${SIDE},0`} />
        <path className="line" d={`M${line}`} style={{ stroke: inks[channel] }} />
        {points.map(([px, py], i) => (
          <circle
            key={i}
            className="point"
            cx={px * SIDE}
            cy={SIDE - py * SIDE}
            r="6"
            tabIndex={0}
            role="slider"
            aria-label={`Point ${i + 1} of ${points.length}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(py * 100)}
            aria-valuetext={`${Math.round(px * 100)} becomes ${Math.round(py * 100)}`}
            data-chosen={i === chosen || undefined}
            onFocus={() => setChosen(i)}
            onKeyDown={event => onKey(event, i)}
          />
        ))}
      </svg>
      <div className="foot">
        <span>
          Point{' '}
          <TypedNumber
            {...SHARE}
            width={48}
            name="Point, tone"
            value={x}
            onTyped={v => keep(moved(here, v, y), 'point moved')}
          />{' '}
          becomes{' '}
          <TypedNumber
            {...SHARE}
            width={48}
            name="Point, becomes"
            value={y}
            onTyped={v => keep(moved(here, x, v), 'point moved')}
          />
        </span>
        <div>
          <Button $small onPress={add} isDisabled={points.length >= 32}>
            <Plus aria-hidden="true" size={14} /> Point
          </Button>
          <Button
            $small
            onPress={() =>
              keep(
                [
                  [0, 0],
                  [1, 1],
                ],
                'straight',
              )
            }
          >
            Straight
          </Button>
        </div>
      </div>
    </Frame>
  );
}
