import { ArrowLeftRight, Minus, Plus } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { evenStops, gradientOf, type Interpolation } from '../../core/colour/gradient';
import { lightnessOfColour } from '../../core/colour/dark-end';
import { toHex } from '../../core/colour/srgb';
import type { Stop } from '../../core/colour/gradient';
import { Button, IconButton } from '../ui/buttons';
import { Movable } from '../ui/movable';
import { SHARE, TypedNumber } from '../ui/typed-number';
import { ColourPicker } from '../ui/colour';
import { GradientFiles } from './GradientFiles';
import { useWells } from './useWells';

const Frame = styled.div`
  padding: 8px 16px 6px;
  border-top: 1px solid var(--rule);
  .bar {
    position: relative;
    height: 26px;
    border-radius: 4px;
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.2);
    cursor: copy;
    touch-action: none;
  }
  .stops {
    position: relative;
    height: 24px;
    margin: 0 6px;
    touch-action: none;
  }
  .stop {
    position: absolute;
    top: 2px;
    width: 14px;
    height: 20px;
    margin-left: -7px;
    border-radius: 3px;
    border: 2px solid var(--ink);
    box-shadow: 0 0 0 1.5px var(--paper);
    cursor: ew-resize;
    outline: none;
  }
  .stop[data-chosen] {
    border-color: #6b3d09;
    box-shadow:
      0 0 0 2px var(--lamp),
      0 0 0 3px var(--lamp-deep);
  }
  .stop:focus-visible {
    outline: 2px solid var(--ink);
    outline-offset: 3px;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 32px;
    color: var(--ink-2);
  }
  .row > span {
    margin-right: auto;
  }
  .place {
    display: flex;
    align-items: center;
    gap: 5px;
  }
`;

const lightnessOf = (colour: string) => Math.round(lightnessOfColour(colour));

/** The stops of a gradient: slid, added, removed, coloured, reversed, spaced evenly, back to black and white. */
export function StopsControl({
  label,
  stops,
  interpolation,
  reversible = true,
  onChange,
}: {
  label: string;
  stops: Stop[];
  interpolation: Interpolation;
  /** Offers to reverse them: not where a setting beside does. */
  reversible?: boolean;
  /** With a name when it has come to rest. */
  onChange: (stops: Stop[], what?: string) => void;
}) {
  const wells = useWells();
  const [chosen, setChosen] = useState(0);
  const track = useRef<HTMLDivElement>(null);
  const from = useRef(0);
  const last = useRef<Stop[] | null>(null);
  const index = Math.min(chosen, stops.length - 1);
  const stop = stops[index];
  const colourAt = gradientOf(stops, { interpolation });
  const c = new Float64Array(3);
  const paint = Array.from({ length: 33 }, (_, i) => {
    colourAt(i / 32, c);
    return toHex(c[0], c[1], c[2]);
  });
  const change = (part: Partial<Stop>) => stops.map((s, i) => (i === index ? { ...s, ...part } : s));
  const placeOf = (event: PointerEvent) => {
    const box = track.current!.getBoundingClientRect();
    return Math.round(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * 1000) / 1000;
  };
  const add = (at: number) => {
    if (stops.length >= 32) return;
    colourAt(at, c);
    onChange([...stops, { at, colour: toHex(c[0], c[1], c[2]) }], 'stop added');
    setChosen(stops.length);
  };
  /** Takes a stop out; the nearest of the others is chosen then. */
  const remove = (gone: number) => {
    if (stops.length <= 2) return;
    const rest = stops.filter((_, i) => i !== gone);
    const away = (s: Stop) => Math.abs(s.at - stops[gone].at);
    const nearest = rest.indexOf(rest.reduce((best, s) => (away(s) < away(best) ? s : best)));
    onChange(rest, 'stop removed');
    setChosen(nearest);
    return nearest;
  };
  const onKey = (event: KeyboardEvent, i: number) => {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return;
    const nearest = remove(i);
    if (nearest !== undefined) track.current?.querySelectorAll<HTMLElement>('.stop')[nearest]?.focus();
    event.preventDefault();
    event.stopPropagation();
  };
  const sorted = stops.slice().sort((a, b) => a.at - b.at);
  const between = () => {
    const next = sorted.find(s => s.at > stop.at) ?? sorted.findLast(s => s.at < stop.at);
    add(next ? (stop.at + next.at) / 2 : 0.5);
  };
  return (
    <Frame role="group" aria-label={label}>
      <div
        className="bar"
        style={{ background: `linear-gradient(90deg, ${paint.join(', ')})`, margin: '0 6px' }}
        onPointerDown={event => event.button === 0 && add(placeOf(event))}
      />
      <div ref={track} className="stops">
        {stops.map((s, i) => (
          <Movable
            key={i}
            as="div"
            className="stop"
            role="slider"
            tabIndex={0}
            aria-label={`Stop ${i + 1} of ${stops.length}, ${s.colour}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(s.at * 100)}
            data-chosen={i === index || undefined}
            style={{ left: `${s.at * 100}%`, background: s.colour }}
            onFocus={() => setChosen(i)}
            onKeyDown={event => onKey(event, i)}
            box={() => track.current?.getBoundingClientRect()}
            near={0.01}
            far={0.1}
            begin={() => (from.current = s.at)}
            move={right => {
              const at = Math.round(Math.min(1, Math.max(0, from.current + right)) * 1000) / 1000;
              last.current = stops.map((each, n) => (n === i ? { ...each, at } : each));
              onChange(last.current);
            }}
            rest={() => {
              if (last.current) onChange(last.current, 'stop moved');
              last.current = null;
            }}
          />
        ))}
      </div>
      <div className="row">
        <span className="place">
          At
          <TypedNumber
            {...SHARE}
            width={48}
            name={`Place of stop ${index + 1}`}
            value={stop.at}
            onTyped={at => onChange(change({ at }), 'stop moved')}
          />
          L* {lightnessOf(stop.colour)}
        </span>
        <ColourPicker
          label={`Colour of stop ${index + 1}`}
          value={stop.colour}
          onChange={colour => onChange(change({ colour }))}
          onChangeEnd={colour => onChange(change({ colour }), 'stop coloured')}
          wells={wells}
        />
        <IconButton aria-label="Add a stop" onPress={between} isDisabled={stops.length >= 32}>
          <Plus aria-hidden="true" />
        </IconButton>
        <IconButton
          aria-label="Remove this stop"
          onPress={() => remove(index)}
          isDisabled={stops.length <= 2}
        >
          <Minus aria-hidden="true" />
        </IconButton>
        {reversible ? (
          <IconButton
            aria-label="Reverse the stops"
            onPress={() =>
              onChange(
                stops.map(s => ({ ...s, at: Math.round((1 - s.at) * 1000) / 1000 })),
                'stops reversed',
              )
            }
          >
            <ArrowLeftRight aria-hidden="true" />
          </IconButton>
        ) : null}
      </div>
      <div className="row">
        <span />
        <Button $small onPress={() => onChange(evenStops(stops), 'stops spaced evenly')}>
          Even
        </Button>
        <Button
          $small
          onPress={() => {
            onChange(
              [
                { at: 0, colour: '#000000' },
                { at: 1, colour: '#ffffff' },
              ],
              'black and white',
            );
            setChosen(0);
          }}
        >
          Black and white
        </Button>
        <GradientFiles
          stops={stops}
          interpolation={interpolation}
          onStops={(taken, what) => {
            onChange(taken, what);
            setChosen(0);
          }}
        />
      </div>
    </Frame>
  );
}
