import styled from 'styled-components';
import type { Pigment } from '../../../core/steps/fields';
import { Segments } from '../../ui/buttons';
import { ColourPicker } from '../../ui/colour';
import { PickOnPicture } from './PickOnPicture';
import { PigmentBox } from './PigmentBox';
import { StopsControl } from './StopsControl';

const Frame = styled.div`
  padding: 10px 16px;
  border-top: 1px solid var(--rule);
  .flat {
    display: flex;
    justify-content: space-between;
    align-items: center;
    height: 36px;
    padding-top: 6px;
    color: var(--ink-2);
  }
`;

/** The colour of a wash: one, or a ramp that follows the tones beneath. */
export function PigmentControl({
  pigment,
  onChange,
}: {
  pigment: Pigment;
  /** With a name when it has come to rest. */
  onChange: (pigment: Pigment, what?: string) => void;
}) {
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
      <PigmentBox
        pigment={pigment}
        onTake={taken => onChange(structuredClone(taken.pigment), `pigment ${taken.name.toLowerCase()}`)}
      />
    </>
  );
}
