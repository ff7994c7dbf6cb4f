import { useMemo } from 'react';
import {
  ColorArea,
  ColorField,
  ColorPicker,
  ColorSlider,
  ColorSwatch,
  ColorSwatchPicker,
  ColorSwatchPickerItem,
  ColorThumb,
  Input,
  Label,
  SliderTrack,
  parseColor,
} from 'react-aria-components';
import styled from 'styled-components';

const Room = styled.div`
  display: grid;
  gap: 10px;
  width: 208px;
  .area {
    width: 208px;
    height: 140px;
    border-radius: 3px;
  }
  .hue {
    display: block;
  }
  .track {
    height: 16px;
    border-radius: 8px;
  }
  .thumb {
    width: 14px;
    height: 14px;
    border: 2px solid #fff;
    border-radius: 50%;
    box-shadow: 0 0 0 1px rgb(0 0 0 / 0.6);
  }
  .track .thumb {
    top: 50%;
  }
  .thumb[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  .wells {
    display: grid;
    grid-template-columns: repeat(8, 1fr);
    gap: 4px;
    max-height: 74px;
    overflow: auto;
  }
  .well {
    position: relative;
    height: 21px;
    border-radius: 3px;
    cursor: pointer;
    outline: none;
  }
  .swatch {
    width: 100%;
    height: 100%;
    border-radius: 3px;
    box-shadow: inset 0 0 0 1px rgb(0 0 0 / 0.2);
  }
  .well[data-selected] .swatch {
    box-shadow:
      inset 0 0 0 2px #fff,
      0 0 0 1px var(--ink);
  }
  .well[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
  .field {
    display: flex;
    align-items: center;
    justify-content: space-between;
    color: var(--ink-2);
  }
  input {
    width: 96px;
    height: 25px;
    background: var(--paper-high);
    border: 0;
    border-bottom: 1px solid var(--edge);
    padding: 0 5px;
    font-weight: 550;
  }
  input:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

export interface ColourPartsProps {
  label: string;
  /** `#rrggbb` */
  value: string;
  /** While it moves. */
  onChange: (hex: string) => void;
  /** Colours with names, to be taken by a click. */
  wells?: readonly { name: string; colour: string }[];
}

/** An area, a hue and a number by which a colour is found, and colours that can be taken. */
export function ColourParts({ label, value, onChange, wells = [] }: ColourPartsProps) {
  // Of the same value the same object: another one would take what is being typed for outdated.
  const colour = useMemo(() => parseColor(value).toFormat('hsb'), [value]);
  return (
    <ColorPicker value={colour} onChange={c => onChange(c.toString('hex').toLowerCase())}>
      <Room>
        <ColorArea className="area" colorSpace="hsb" xChannel="saturation" yChannel="brightness">
          <ColorThumb className="thumb" />
        </ColorArea>
        <ColorSlider className="hue" colorSpace="hsb" channel="hue" aria-label={`${label}, hue`}>
          <SliderTrack className="track">
            <ColorThumb className="thumb" />
          </SliderTrack>
        </ColorSlider>
        {wells.length ? (
          <ColorSwatchPicker className="wells" aria-label={`${label}, from the pigment box`}>
            {wells.map(({ name, colour: well }, i) => (
              <ColorSwatchPickerItem key={i} color={well} className="well" aria-label={name}>
                <ColorSwatch className="swatch" />
              </ColorSwatchPickerItem>
            ))}
          </ColorSwatchPicker>
        ) : null}
        <ColorField className="field">
          <Label>Number</Label>
          <Input />
        </ColorField>
      </Room>
    </ColorPicker>
  );
}
