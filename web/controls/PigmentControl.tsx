import { useState } from 'react';
import styled from 'styled-components';
import { atVividness, vividnessOf } from '../../core/colour/vividness';
import type { NamedPigment, Pigment } from '../../core/colour/pigments';
import { Segments } from '../ui/buttons';
import { ColourPicker } from '../ui/colour';
import { AMOUNT, Slider } from '../ui/slider';
import { PickOnPicture } from './PickOnPicture';
import { PigmentBox } from './PigmentBox';
import { LEAST_VIVID, vividField, VIVIDNESS } from '../../words/step-settings';
import { StopsControl } from './StopsControl';
import { SuitingPigments } from './SuitingPigments';
import { useTools } from './tools';

const Frame = styled.div`
  padding: 8px 16px 0;
  border-top: 1px solid var(--rule);
  .flat {
    display: flex;
    justify-content: space-between;
    align-items: center;
    height: 34px;
    padding-top: 4px;
    color: var(--ink-2);
  }
`;

const Vivid = styled.div`
  padding: 0 16px 2px;
  .ends {
    display: grid;
    grid-template-columns: 1fr auto 1fr;
    margin: -3px 56px 4px 82px;
    :last-child {
      text-align: right;
    }
    font-size: 12px;
    color: var(--ink-2);
  }
`;

const same = (a: Pigment, b: Pigment) => JSON.stringify(a) === JSON.stringify(b);

/** A track from the greyed to the purest state of a pigment, of its middle colour. */
function vividPaint(pigment: Pigment): string {
  const colours = [0.02, 0.25, 0.5, 0.75, 1].map(v => {
    const at = atVividness(pigment, v);
    return at.kind === 'flat' ? at.colour : at.stops[Math.floor(at.stops.length / 2)].colour;
  });
  return `linear-gradient(90deg, ${colours.join(', ')})`;
}

/** One control from a transparent old tint to a vivid colour; lightness and hue stay. */
function Vividness({
  pigment,
  onChange,
}: {
  pigment: Pigment;
  onChange: (pigment: Pigment, what?: string) => void;
}) {
  /** The pigment that the control started from: codes near grey do not hold their hue. */
  const [from, setFrom] = useState({ base: pigment, made: pigment, asked: vividnessOf(pigment) });
  const ours = same(from.made, pigment);
  const base = ours ? from.base : pigment;
  const set = (asked: number, what?: string) => {
    const made = atVividness(base, asked);
    setFrom({ base, made, asked });
    onChange(made, what);
  };
  const standard = vividnessOf(base);
  const { min, max } = vividField;
  if (standard < LEAST_VIVID) return null;
  return (
    <Slider
      label={VIVIDNESS}
      name="From transparent to vivid"
      control={VIVIDNESS}
      value={Math.min(max, Math.max(min, ours ? from.asked : vividnessOf(pigment)))}
      min={min}
      max={max}
      step={0.01}
      standard={standard}
      shownTimes={100}
      paint={vividPaint(base)}
      onChange={v => set(v)}
      onChangeEnd={v => set(v, 'vividness')}
    />
  );
}

/** The colour of a wash: one, or a ramp that follows the tones beneath. */
export function PigmentControl({
  pigment,
  depth,
  onChange,
  onDepth,
  onTake,
}: {
  pigment: Pigment;
  /** -1 body colour .. 1 dye. */
  depth: number;
  /** With a name when it has come to rest. */
  onChange: (pigment: Pigment, what?: string) => void;
  onDepth: (depth: number, what?: string) => void;
  /** A pigment of the box, with its depth. */
  onTake: (taken: NamedPigment) => void;
}) {
  const { picture, treatment, step, tryOn } = useTools();
  const colour = pigment.kind === 'flat' ? pigment.colour : pigment.stops[0].colour;
  return (
    <>
      <Frame>
        <Segments
          label="Pigment"
          value={pigment.kind}
          options={[
            { value: 'flat', text: 'One colour' },
            { value: 'ramp', text: 'By tone' },
          ]}
          onChange={kind =>
            onChange(
              kind === 'flat'
                ? { kind, colour: pigment.kind === 'flat' ? pigment.colour : pigment.stops.at(-1)!.colour }
                : {
                    kind,
                    stops: [
                      { at: 0, colour: '#1a120c' },
                      { at: 0.5, colour },
                      { at: 1, colour: '#fff6e8' },
                    ],
                  },
              'pigment',
            )
          }
        />
        {pigment.kind === 'flat' ? (
          <div className="flat">
            <span>Colour</span>
            <span style={{ flex: 1 }} />
            <PickOnPicture
              label="pigment"
              onPick={c => onChange({ kind: 'flat', colour: c }, 'pigment colour')}
            />
            <ColourPicker
              label="Pigment colour"
              value={pigment.colour}
              onChange={c => onChange({ kind: 'flat', colour: c })}
              onChangeEnd={c => onChange({ kind: 'flat', colour: c }, 'pigment colour')}
            />
          </div>
        ) : null}
      </Frame>
      {pigment.kind === 'ramp' ? (
        <StopsControl
          label="Pigment by tone"
          stops={pigment.stops}
          interpolation="oklab"
          onChange={(stops, what) => onChange({ kind: 'ramp', stops }, what)}
        />
      ) : null}
      <Vivid>
        <Vividness pigment={pigment} onChange={onChange} />
        <Slider
          label="Depth"
          name="Depth, from body colour to dye"
          control="Depth"
          value={depth}
          {...AMOUNT}
          onChange={v => onDepth(v)}
          onChangeEnd={v => onDepth(v, 'depth')}
        />
        <div className="ends" aria-hidden="true">
          <span>Body</span>
          <span>Tint</span>
          <span>Dye</span>
        </div>
      </Vivid>
      <PigmentBox
        pigment={pigment}
        depth={depth}
        above={isHere => (
          <SuitingPigments
            picture={picture}
            treatment={treatment}
            step={step}
            isHere={isHere}
            onTry={tryOn}
            onLay={onTake}
          />
        )}
        onTake={taken => onTake(structuredClone(taken))}
      />
    </>
  );
}
