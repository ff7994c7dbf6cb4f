import { useMemo, useRef } from 'react';
import styled from 'styled-components';
import { oklabToRgb } from '../../core/colour/oklab';
import { toHex } from '../../core/colour/srgb';
import { noContext } from '../../core/steps/define';
import { highlightShare, splitTone } from '../../core/steps/split-tone';
import type { Step } from '../../core/treatment/treatment';
import { Movable } from '../ui/movable';
import type { SetSetting } from '../takes/edits';

const Ramp = styled.div`
  position: relative;
  height: 22px;
  margin: 6px 0 4px;
  border-radius: var(--r-field);
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.35);
  touch-action: none;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
    pointer-events: none;
  }
  path {
    fill: none;
    stroke: #fff;
    stroke-width: 1.25;
    vector-effect: non-scaling-stroke;
    mix-blend-mode: difference;
  }
  i {
    position: absolute;
    top: -3px;
    bottom: -3px;
    width: 9px;
    margin-left: -4.5px;
    cursor: ew-resize;
  }
  i::after {
    content: '';
    position: absolute;
    inset: 0 1.5px;
    border-radius: 3px;
    background: var(--paper-high);
    border: 1.5px solid var(--ink);
  }
  i[data-end]::after {
    inset: 1px 3px;
    background: none;
    border: 0;
    border-radius: 0;
    box-shadow:
      -2px 0 0 var(--ink),
      0 0 0 1px rgb(255 255 255 / 0.6);
    border-block: 2px solid var(--ink);
  }
  i[data-end='high']::after {
    box-shadow:
      2px 0 0 var(--ink),
      0 0 0 1px rgb(255 255 255 / 0.6);
  }
`;

type Settings = Step<'split-tone'>['settings'];

const clamp = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
const rounded = (v: number) => Math.round(v * 100) / 100;

/**
 * The tones from black to white as the split tone leaves them, with the share of the highlights over it: the middle
 * handle is dragged for balance, the ends for crossover. By keys, the two sliders below do the same.
 */
export function ToneRamp({ settings, set }: { settings: Settings; set: SetSetting }) {
  const box = useRef<HTMLDivElement>(null);
  const from = useRef({ at: 0, centre: 0 });
  const last = useRef<{ path: string[]; value: number; label: string } | null>(null);
  const { balance, crossover } = settings;
  const paint = useMemo(() => {
    const point = splitTone.point(settings, noContext());
    const stops = Array.from({ length: 25 }, (_, i) => {
      const c = Float64Array.from([i / 24, 0, 0]);
      oklabToRgb(c);
      point(c);
      return toHex(c[0], c[1], c[2]);
    });
    return `linear-gradient(90deg, ${stops.join(',')})`;
  }, [settings]);
  const share = highlightShare(balance, crossover);
  const line = Array.from({ length: 61 }, (_, i) => `${(i / 60) * 100},${3 + 16 * (1 - share(i / 60))}`);
  const centre = 0.55 - 0.4 * balance;
  const half = 0.02 + 0.5 * crossover;

  const handle = (at: number, which: 'middle' | 'end', end?: 'low' | 'high') => (
    <Movable
      as="i"
      data-end={end}
      style={{ left: `${clamp(at, 0, 1) * 100}%` }}
      box={() => box.current?.getBoundingClientRect()}
      near={0.01}
      far={0.1}
      begin={() => (from.current = { at: clamp(at, 0, 1), centre })}
      move={right => {
        const L = clamp(from.current.at + right, 0, 1);
        const [name, value] =
          which === 'middle'
            ? (['balance', rounded(clamp((0.55 - L) / 0.4, -1, 1))] as const)
            : ([
                'crossover',
                rounded(clamp((Math.abs(L - from.current.centre) - 0.02) / 0.5, 0, 1)),
              ] as const);
        last.current = { path: [name], value, label: name };
        set([name], value);
      }}
      rest={() => {
        if (last.current) set(last.current.path, last.current.value, last.current.label);
        last.current = null;
      }}
    />
  );
  return (
    <Ramp ref={box} style={{ background: paint }} data-ramp>
      <svg viewBox="0 0 100 22" preserveAspectRatio="none" aria-hidden="true">
        <path d={`M${line.join('L')}`} />
      </svg>
      {handle(centre - half, 'end', 'low')}
      {handle(centre + half, 'end', 'high')}
      {handle(centre, 'middle')}
    </Ramp>
  );
}
