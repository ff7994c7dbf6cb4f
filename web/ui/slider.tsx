import { memo, useCallback, useEffect, useRef, useState, type CSSProperties, type RefObject } from 'react';
import {
  Input,
  NumberField,
  Slider as AriaSlider,
  SliderThumb,
  SliderTrack,
  useLocale,
} from 'react-aria-components';
import styled from 'styled-components';

const Row = styled.div<{ $wide?: boolean }>`
  display: grid;
  grid-template-columns: ${p => (p.$wide ? '88px 1fr 64px' : '72px 1fr 46px')};
  column-gap: 10px;
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

const Box = styled(NumberField)`
  input {
    width: 100%;
    height: 23px;
    background: var(--paper-high);
    border: 0;
    border-bottom: 1px solid var(--edge);
    border-radius: 2px 2px 0 0;
    text-align: right;
    padding: 0 5px 0 2px;
    font-weight: 550;
    font-size: var(--t-body);
  }
  input:hover {
    background: #fff;
  }
  input:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

export interface SliderProps {
  label: string;
  /** A fuller name for screen readers, where the label alone is not enough. */
  name?: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** What a double click sets. */
  standard: number;
  /** How many units are shown for one of the value, and what follows the number. */
  shownTimes?: number;
  unit?: string;
  decimals?: number;
  /** A CSS background that shows what the values give. */
  paint?: string;
  wide?: boolean;
  /** While the value moves. */
  onChange: (value: number) => void;
  /** When it has come to rest. */
  onChangeEnd: (value: number) => void;
  /** While it is held, by pointer or by a key that moves it. */
  onHold?: (held: boolean) => void;
}

/** How long a turning wheel must rest before the value counts as set. */
const WHEEL_REST_MS = 250;

/** Keys that move a slider. */
const moves = new Set([
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  'PageUp',
  'PageDown',
  'Home',
  'End',
]);

/** How numbers are written, by language and by how they are shown. */
const formats = new Map<string, Intl.NumberFormat>();
/** The same as options: of the same way the same object, since another one would undo what is being typed. */
const options = new Map<string, Intl.NumberFormatOptions>();

interface Shown {
  shownTimes: number;
  unit: string;
  decimals: number;
  centred: boolean;
}

const keyOf = ({ unit, decimals, centred }: Shown) => `${unit} ${decimals} ${centred}`;

function optionsOf(shown: Shown): Intl.NumberFormatOptions {
  const { unit, decimals, centred } = shown;
  const known = options.get(keyOf(shown));
  if (known) return known;
  const made: Intl.NumberFormatOptions = {
    maximumFractionDigits: decimals,
    minimumFractionDigits: decimals,
    signDisplay: centred ? 'exceptZero' : 'auto',
    ...(unit === '°' && { style: 'unit', unit: 'degree', unitDisplay: 'narrow' }),
  };
  options.set(keyOf(shown), made);
  return made;
}

const inUnits = (value: number, { shownTimes, decimals }: Shown) =>
  Number((value * shownTimes).toFixed(decimals));

function written(value: number, shown: Shown, language: string): string {
  const key = `${language} ${keyOf(shown)}`;
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new Intl.NumberFormat(language, optionsOf(shown))));
  return format.format(inUnits(value, shown));
}

/** The number of a slider, to be typed as well. */
const NumberBox = memo(function NumberBox({
  name,
  value,
  min,
  max,
  step,
  shownTimes,
  unit,
  decimals,
  centred,
  input,
  onTyped,
}: Shown & {
  name: string;
  value: number;
  min: number;
  max: number;
  step: number;
  input: RefObject<HTMLInputElement | null>;
  /** Must stay the same function. */
  onTyped: (value: number) => void;
}) {
  const shown = { shownTimes, unit, decimals, centred };
  return (
    <Box
      aria-label={`${name}, number`}
      value={inUnits(value, shown)}
      minValue={min * shownTimes}
      maxValue={max * shownTimes}
      step={step * shownTimes}
      isWheelDisabled
      formatOptions={optionsOf(shown)}
      onChange={typed => onTyped(typed / shownTimes)}
    >
      <Input ref={input} />
    </Box>
  );
});

/** A slider with its number: dragged, wheeled, by arrow keys, typed, double-clicked back to its standard. */
export function Slider(props: SliderProps) {
  const { label, name = label, min, max, step, standard, shownTimes = 1, unit = '', decimals = 0 } = props;
  const track = useRef<HTMLDivElement>(null);
  /** Where it is while it moves: it does not wait for what it moves. */
  const [moving, setMoving] = useState<number | null>(null);
  const value = moving ?? props.value;
  const centred = min < 0 && max > 0;
  const shown = { shownTimes, unit, decimals, centred };
  const { locale } = useLocale();
  const input = useRef<HTMLInputElement>(null);
  const move = (v: number) => {
    setMoving(v);
    // Only its text, since the whole box would be built anew with each movement.
    if (input.current) input.current.value = written(v, shown, locale);
    props.onChange(v);
  };
  const rest = (v: number) => {
    setMoving(null);
    props.onChangeEnd(v);
  };
  // Where it came to rest elsewhere than it was moved to.
  const text = written(props.value, shown, locale);
  useEffect(() => {
    if (moving === null && input.current && input.current !== document.activeElement) {
      input.current.value = text;
    }
  }, [moving, text]);
  const latest = useRef({ ...props, value, move, rest });
  useEffect(() => {
    latest.current = { ...props, value, move, rest };
  });

  useEffect(() => {
    const element = track.current;
    if (!element) return;
    let held = false;
    const hold = (now: boolean) => {
      if (held === now) return;
      held = now;
      latest.current.onHold?.(now);
    };
    const release = () => hold(false);
    const press = () => hold(true);
    const key = (event: KeyboardEvent) => moves.has(event.key) && hold(true);
    element.addEventListener('pointerdown', press, true);
    element.addEventListener('keydown', key, true);
    element.addEventListener('keyup', release, true);
    element.addEventListener('focusout', release);
    window.addEventListener('pointerup', release, true);
    window.addEventListener('pointercancel', release, true);
    return () => {
      release();
      element.removeEventListener('pointerdown', press, true);
      element.removeEventListener('keydown', key, true);
      element.removeEventListener('keyup', release, true);
      element.removeEventListener('focusout', release);
      window.removeEventListener('pointerup', release, true);
      window.removeEventListener('pointercancel', release, true);
    };
  }, []);

  // React listens to wheels passively; this one must hold the page still.
  useEffect(() => {
    const element = track.current;
    if (!element) return;
    let resting: ReturnType<typeof setTimeout> | undefined;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      const p = latest.current;
      const by = (event.deltaY || event.deltaX) > 0 ? -1 : 1;
      const next = Math.min(p.max, Math.max(p.min, p.value + by * p.step * (event.shiftKey ? 10 : 1)));
      p.value = next;
      p.move(next);
      clearTimeout(resting);
      resting = setTimeout(() => latest.current.rest(latest.current.value), WHEEL_REST_MS);
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => {
      element.removeEventListener('wheel', turn);
      if (resting !== undefined) clearTimeout(resting);
    };
  }, []);

  const onTyped = useCallback((typed: number) => {
    const v = Number.isFinite(typed) ? typed : latest.current.standard;
    latest.current.onChange(v);
    latest.current.onChangeEnd(v);
  }, []);

  const style = { '--v': (value - min) / (max - min), '--paint': props.paint } as CSSProperties;
  return (
    <Row $wide={props.wide}>
      <Frame
        aria-label={name}
        value={value}
        minValue={min}
        maxValue={max}
        step={step}
        onChange={v => move(v as number)}
        onChangeEnd={v => rest(v as number)}
      >
        <span className="label" aria-hidden="true">
          {label}
        </span>
        <Track
          ref={track}
          style={style}
          data-kind={props.paint ? 'band' : centred ? 'centred' : 'wedge'}
          onDoubleClick={() => {
            move(standard);
            rest(standard);
          }}
        >
          <Rod />
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
      />
    </Row>
  );
}
