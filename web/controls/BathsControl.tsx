import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useMemo, useRef } from 'react';
import styled from 'styled-components';
import {
  baths as bathsStep,
  nextBath,
  tonerNames,
  toners,
  turnedShare,
  type Bath,
} from '../../core/steps/baths';
import { noContext } from '../../core/steps/define';
import { withStep } from '../../core/treatment/beneath';
import type { Step } from '../../core/treatment/treatment';
import { toHex } from '../../core/colour/srgb';
import { wordFor } from '../../words/words';
import { Button, IconButton } from '../ui/buttons';
import { Picker } from '../ui/overlays';
import { AMOUNT, SHARE_OF_ALL, Slider } from '../ui/slider';
import { SmallPicture } from '../print/SmallPicture';
import { useTools } from './tools';

const Dish = styled.section`
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .head {
    display: flex;
    align-items: center;
    height: 32px;
    gap: 2px;
  }
  .head > div:first-child {
    flex: 1;
    min-width: 0;
  }
  .seen {
    display: grid;
    grid-template-columns: auto 1fr;
    align-items: center;
    gap: 10px;
    margin: 3px 0 4px;
    canvas {
      display: block;
      border: 2px solid #fff;
    }
  }
  .scale {
    height: 14px;
    border-radius: 7px;
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.15);
  }
  .start {
    display: grid;
    grid-template-columns: 72px 1fr;
    column-gap: 10px;
    align-items: center;
    height: 30px;
    color: var(--ink-2);
  }
  p {
    color: var(--ink-2);
    font-size: var(--t-small);
    line-height: 1.35;
  }
`;
const Foot = styled.div`
  padding: 8px 16px;
  border-top: 1px solid var(--rule);
`;

const percent = (v: number) => `${Math.round(v * 100)} %`;

/** A tone scale as the baths up to one leave it. */
function scaleOf(baths: Bath[]): string {
  const point = bathsStep.point({ ...bathsStep.defaults, baths }, noContext());
  const c = new Float64Array(3);
  const colours = Array.from({ length: 17 }, (_, i) => {
    c.fill(i / 16);
    point(c);
    return toHex(c[0], c[1], c[2]);
  });
  return `linear-gradient(90deg, ${colours.join(', ')})`;
}

/** The photograph as a number of the baths leaves it. */
function BathPicture({ baths, count }: { baths: Bath[]; count: number }) {
  const { picture, treatment, step } = useTools();
  const shown = useMemo(() => {
    const settings = { ...step.settings, baths: baths.slice(0, count) };
    return withStep(treatment, { ...step, settings } as Step);
  }, [treatment, step, baths, count]);
  return <SmallPicture picture={picture} treatment={shown} width={62} height={42} />;
}

/** What the baths so far leave unturned at a depth. */
const leftAt = (baths: Bath[], depth: number) =>
  baths.reduce((left, b) => left * (1 - turnedShare(b.time, b.start, b.contrast, depth)), 1);

/** A row of dishes in order: toner, time, where it starts, and what it leaves for the next. */
export function BathsControl({
  baths,
  onChange,
}: {
  baths: Bath[];
  /** With a name when it has come to rest. */
  onChange: (baths: Bath[], what?: string) => void;
}) {
  const change = (i: number, part: Partial<Bath>) => baths.map((b, n) => (n === i ? { ...b, ...part } : b));
  /** The baths before a toner was tried. */
  const before = useRef<Bath[] | null>(null);
  /** Another toner starts where that one does. */
  const withToner = (i: number, toner: Bath['toner']) =>
    (before.current ?? baths).map((b, n) => (n === i ? { ...b, toner, start: toners[toner].starts } : b));
  const swap = (i: number, by: number) => {
    const next = baths.slice();
    [next[i], next[i + by]] = [next[i + by], next[i]];
    onChange(next, 'order of the baths');
  };
  return (
    <>
      {baths.map((bath, i) => {
        const name = `Bath ${i + 1}`;
        const sofar = baths.slice(0, i + 1);
        return (
          <Dish key={i} aria-label={`${name}, ${wordFor(bath.toner)}`}>
            <div className="head">
              <div>
                <Picker
                  label={`${name} toner`}
                  value={bath.toner}
                  options={tonerNames.map(t => ({ value: t, text: wordFor(t) }))}
                  onChange={toner => {
                    const made = withToner(i, toner);
                    before.current = null;
                    onChange(made, `${name.toLowerCase()} toner`);
                  }}
                  onTry={(toner, isOver) => {
                    before.current ??= baths;
                    onChange(isOver ? before.current : withToner(i, toner));
                    if (isOver) before.current = null;
                  }}
                />
              </div>
              <IconButton aria-label={`${name} earlier`} isDisabled={i === 0} onPress={() => swap(i, -1)}>
                <ArrowUp aria-hidden="true" />
              </IconButton>
              <IconButton
                aria-label={`${name} later`}
                isDisabled={i === baths.length - 1}
                onPress={() => swap(i, 1)}
              >
                <ArrowDown aria-hidden="true" />
              </IconButton>
              <IconButton
                aria-label={`Remove ${name.toLowerCase()}`}
                onPress={() =>
                  onChange(
                    baths.filter((_, n) => n !== i),
                    `remove ${name.toLowerCase()}`,
                  )
                }
              >
                <Trash2 aria-hidden="true" />
              </IconButton>
            </div>
            <div className="seen">
              <BathPicture baths={baths} count={i + 1} />
              <div className="scale" style={{ background: scaleOf(sofar) }} />
            </div>
            <Slider
              label="Time"
              name={`${name} time`}
              value={bath.time}
              {...SHARE_OF_ALL}
              standard={0.5}
              onChange={time => onChange(change(i, { time }))}
              onChangeEnd={time => onChange(change(i, { time }), `${name.toLowerCase()} time`)}
            />
            <div className="start">
              <span aria-hidden="true" data-tells={`${name} starts in`}>
                Starts in
              </span>
              <Picker
                label={`${name} starts in`}
                value={bath.start}
                options={[
                  { value: 'highlights', text: 'The lights' },
                  { value: 'shadows', text: 'The darks' },
                  { value: 'even', text: 'All tones alike' },
                ]}
                onChange={start => onChange(change(i, { start }), `${name.toLowerCase()} start`)}
                onTry={start => onChange(change(i, { start }))}
              />
            </div>
            <Slider
              label="Contrast"
              name={`${name} contrast`}
              value={bath.contrast}
              {...AMOUNT}
              onChange={contrast => onChange(change(i, { contrast }))}
              onChangeEnd={contrast => onChange(change(i, { contrast }), `${name.toLowerCase()} contrast`)}
            />
            <p>
              Leaves {percent(leftAt(sofar, 0.15))} of the silver in the lights, {percent(leftAt(sofar, 0.8))}{' '}
              in the darks.
            </p>
          </Dish>
        );
      })}
      <Foot>
        <Button
          $small
          isDisabled={baths.length >= 8}
          onPress={() => onChange([...baths, nextBath(baths)], 'add a bath')}
        >
          <Plus size={14} aria-hidden="true" /> {baths.length ? 'Another bath' : 'First bath'}
        </Button>
      </Foot>
    </>
  );
}
