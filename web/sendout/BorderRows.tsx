import type { SendOutSettings } from '../../contract/send-outs';
import { OnOff } from '../ui/on-off';
import { Picker } from '../ui/overlays';
import { Row } from '../ui/rows';
import { Slider } from '../ui/slider';

type Border = SendOutSettings['border'];

const WAYS: { value: 'none' | Border['colour']; text: string }[] = [
  { value: 'none', text: 'None' },
  { value: 'white', text: 'White' },
  { value: 'paper', text: 'As the toned paper' },
];

/** How wide it is at first, as a share of the long edge. */
const USUAL = 0.05;

/** The border about a picture, and the line beneath it. */
export function BorderRows({ border, onChange }: { border: Border; onChange: (border: Border) => void }) {
  const has = border.width > 0;
  const widen = (width: number) => onChange({ ...border, width });
  return (
    <>
      <Row>
        <span>Border</span>
        <Picker
          label="Border"
          value={has ? border.colour : 'none'}
          options={WAYS}
          onChange={way =>
            onChange(
              way === 'none'
                ? { ...border, width: 0 }
                : { ...border, width: border.width || USUAL, colour: way },
            )
          }
        />
      </Row>
      {has ? (
        <>
          <Slider
            wide
            label="Border width"
            value={border.width}
            min={0.005}
            max={0.25}
            step={0.005}
            standard={USUAL}
            shownTimes={100}
            decimals={1}
            unit="%"
            onChange={widen}
            onChangeEnd={widen}
          />
          <Row>
            <span>Line beneath</span>
            <OnOff
              label="Line beneath with title and rights"
              isOn={border.caption}
              onChange={caption => onChange({ ...border, caption })}
            />
          </Row>
        </>
      ) : null}
    </>
  );
}
