import { useCallback, useEffect, useEffectEvent, useRef, useState, type CSSProperties } from 'react';
import { Slider as AriaSlider, SliderThumb, SliderTrack, useLocale } from 'react-aria-components';
import styled from 'styled-components';
import { NumberBox } from './number-box';
import { written } from '../../words/number-format';
import { useHeld } from './useHeld';
import { useWheel } from './useWheel';

const Row = styled.div<{ $wide?: boolean; $beside?: boolean }>`
  display: grid;
  grid-template-columns: ${p => (p.$wide ? '88px 1fr 64px' : p.$beside ? '72px 1fr 62px 46px' : '72px 1fr 62px')};
  > small {
    font-size: 12px;
    color: var(--ink-2);
    white-space: nowrap;
    text-align: right;
    font-variant-numeric: tabular-nums;
  }
  column-gap: 8px;
  align-items: center;
  height: 27px;
`;

const Frame = styled(AriaSlider)`
  display: contents;
  .label {
    color: var(--ink-2);
    white-space: nowrap;
  }
  &:has([data-dragging]) .label,
  &:has([data-focus-visible]) .label {
    color: var(--ink);
    font-weight: 600;
  }
`;

/** A step wedge: thin where there is little, full where there is much; a painted band where colour helps. */
const Track = styled(SliderTrack)`
  position: relative;
  height: 20px;
  cursor: pointer;
  touch-action: none;
  &::before {
    content: '';
    position: absolute;
    inset: 5px 0;
    clip-path: polygon(0 44%, 100% 0, 100% 100%, 0 56%);
    background: linear-gradient(90deg, var(--ink) calc(var(--v) * 100%), #b2b2b2 0);
  }
  &[data-kind='centred']::before {
    clip-path: polygon(0 0, 50% 44%, 100% 0, 100% 100%, 50% 56%, 0 100%);
    background: linear-gradient(
      90deg,
      #b2b2b2 calc(min(var(--v), 0.5) * 100%),
      var(--ink) 0 calc(max(var(--v), 0.5) * 100%),
      #b2b2b2 0
    );
  }
  &[data-kind='band']::before {
    inset: 4px 0;
    border-radius: 6px;
    clip-path: none;
    background: var(--paint);
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.12);
  }
`;

/** The handle: a glass stirring rod. */
const Rod = styled(SliderThumb)`
  top: 50%;
  width: 6px;
  height: 20px;
  border-radius: 3px;
  background: var(--paper-high);
  border: 1.5px solid var(--ink);
  box-shadow:
    0 0 0 1.5px var(--paper),
    0 1px 2px rgb(0 0 0 / 0.3);
  &[data-dragging],
  &[data-focus-visible] {
    background: var(--lamp);
    border-color: #6b3d09;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

/** A step on the track of a ratio. */
const RATIO_STEP = 0.005;

/** A share of a whole, from none to all of it, told in hundredths; set back it is all. */
export const SHARE_OF_ALL = { min: 0, max: 1, step: 0.01, standard: 1, shownTimes: 100 } as const;
/** An amount to either side of nothing, told in hundredths. */
export const AMOUNT = { min: -1, max: 1, step: 0.01, standard: 0, shownTimes: 100 } as const;

export interface SliderProps {
  label: string;
  /** A fuller name for screen readers, where the label alone is not enough. */
  name?: string;
  /** What it is called where settings are told by name, if that is not its name here. */
  control?: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** What a double click sets. */
  standard: number;
  /** Equal shares of the track multiply it alike. */
  scale?: 'ratio';
  /** How many units are shown for one of the value, and what follows the number. */
  shownTimes?: number;
  unit?: string;
  decimals?: number;
  /** A CSS background that shows what the values give. */
  paint?: string;
  wide?: boolean;
  /** What else the value comes to, behind its number: pixels. */
  beside?: (value: number) => string;
  /** While the value moves. */
  onChange: (value: number) => void;
  /** When it has come to rest. */
  onChangeEnd: (value: number) => void;
  /** While it is held, by pointer or by a key that moves it. */
  onHold?: (held: boolean) => void;
}

/** A slider with its number: dragged, wheeled, by arrow keys, typed, double-clicked back to its standard. */
export function Slider(props: SliderProps) {
  const { label, name = label, min, max, step, standard, shownTimes = 1, unit = '', decimals = 0 } = props;
  const track = useRef<HTMLDivElement>(null);
  /** Where it is while it moves: it does not wait for what it moves. */
  const [moving, setMoving] = useState<number | null>(null);
  const value = moving ?? props.value;
  const isRatio = props.scale === 'ratio';
  // A ratio runs from 0 to 1 on its track, so that its steps reach the ends and the middle.
  const [low, wide] = [Math.log(min), Math.log(max) - Math.log(min)];
  const onTrack = (v: number) => (isRatio ? (Math.log(v) - low) / wide : v);
  const fromTrack = (v: number) => (isRatio ? Number(Math.exp(low + v * wide).toFixed(decimals)) : v);
  const trackStep = isRatio ? RATIO_STEP : step;
  const centred = min < 0 && max > 0;
  const shown = { shownTimes, unit, decimals, centred };
  const { locale } = useLocale();
  const input = useRef<HTMLInputElement>(null);
  /** Where the movement that is under way began; null where none is. */
  const begun = useRef<number | null>(null);
  /** Escape was pressed: the rest of the movement counts for nothing. */
  const isGivenUp = useRef(false);
  const move = (v: number) => {
    if (isGivenUp.current) return;
    begun.current ??= props.value;
    setMoving(v);
    // Only its text, since the whole box would be built anew with each movement.
    if (input.current) input.current.value = written(v, shown, locale);
    props.onChange(v);
  };
  const rest = (v: number) => {
    setMoving(null);
    begun.current = null;
    // It stands where it stood, and what comes next is another movement.
    if (!isGivenUp.current) props.onChangeEnd(v);
    isGivenUp.current = false;
  };
  // Escape takes a movement back while it lasts.
  const giveUp = useEffectEvent((event: KeyboardEvent) => {
    if (event.key !== 'Escape' || begun.current === null) return;
    event.preventDefault();
    event.stopPropagation();
    const back = begun.current;
    isGivenUp.current = true;
    setMoving(back);
    if (input.current) input.current.value = written(back, shown, locale);
    props.onChange(back);
    props.onChangeEnd(back);
  });
  const isMoving = moving !== null;
  useEffect(() => {
    if (!isMoving) return;
    window.addEventListener('keydown', giveUp, true);
    return () => window.removeEventListener('keydown', giveUp, true);
  }, [isMoving]);
  // Where it came to rest elsewhere than it was moved to.
  const text = written(props.value, shown, locale);
  useEffect(() => {
    if (moving === null && input.current && input.current !== document.activeElement) {
      input.current.value = text;
    }
  }, [moving, text]);
  useHeld(track, props.onHold);
  useWheel(track, {
    value: onTrack(value),
    min: onTrack(min),
    max: onTrack(max),
    step: trackStep,
    move: v => move(fromTrack(v)),
    rest: v => rest(fromTrack(v)),
  });
  const thumb = useRef<HTMLInputElement>(null);
  // A number that is typed on the slider is written into its field.
  useEffect(() => {
    const element = thumb.current;
    const write = (event: KeyboardEvent) => {
      if (!/^[\d+-]$/.test(event.key) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.stopPropagation();
      input.current?.focus();
    };
    element?.addEventListener('keydown', write);
    return () => element?.removeEventListener('keydown', write);
  }, []);
  // What is spoken is what is shown: its place on the track, or a share of one, is not. After every change, since the part
  // beneath writes a text of its own whenever the value moves at all.
  const spoken = written(value, shown, locale);
  useEffect(() => {
    thumb.current?.setAttribute('aria-valuetext', spoken);
  });

  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });

  const onTyped = useCallback((typed: number) => {
    const v = Number.isFinite(typed) ? typed : latest.current.standard;
    latest.current.onChange(v);
    latest.current.onChangeEnd(v);
  }, []);

  const share = (onTrack(value) - onTrack(min)) / (onTrack(max) - onTrack(min));
  const style = { '--v': share, '--paint': props.paint } as CSSProperties;
  return (
    <Row $wide={props.wide} $beside={props.beside !== undefined} data-control={props.control ?? name}>
      <Frame
        aria-label={name}
        value={onTrack(value)}
        minValue={onTrack(min)}
        maxValue={onTrack(max)}
        step={trackStep}
        onChange={v => move(fromTrack(v as number))}
        onChangeEnd={v => rest(fromTrack(v as number))}
      >
        <span className="label" aria-hidden="true" data-tells={props.control ?? name}>
          {label}
        </span>
        <Track
          ref={track}
          style={style}
          data-kind={props.paint ? 'band' : centred || isRatio ? 'centred' : 'wedge'}
          onDoubleClick={() => {
            move(standard);
            rest(standard);
          }}
        >
          <Rod inputRef={thumb} />
        </Track>
      </Frame>
      <NumberBox
        name={name}
        value={props.value}
        min={min}
        max={max}
        step={step}
        {...shown}
        input={input}
        onTyped={onTyped}
        after={thumb}
      />
      {props.beside ? <small aria-hidden="true">{props.beside(value)}</small> : null}
    </Row>
  );
}
