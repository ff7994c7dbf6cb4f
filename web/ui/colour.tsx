import { useMemo } from 'react';
import {
  Button as AriaButton,
  ColorArea,
  ColorField,
  ColorPicker,
  ColorSlider,
  ColorSwatch,
  ColorSwatchPicker,
  ColorSwatchPickerItem,
  ColorThumb,
  Dialog,
  DialogTrigger,
  Input,
  Label,
  Popover,
  SliderTrack,
  parseColor,
} from 'react-aria-components';
import styled from 'styled-components';

const Swatch = styled(AriaButton)`
  width: 46px;
  height: 20px;
  border-radius: 10px;
  flex: none;
  box-shadow:
    inset 0 1px 2px rgb(0 0 0 / 0.35),
    inset 0 0 0 1px rgb(0 0 0 / 0.15);
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

const Float = styled(Popover)`
  background: var(--paper-high);
  border-radius: var(--r-field);
  box-shadow: var(--shade-float);
  padding: 12px;
`;

const Form = styled(Dialog)`
  outline: none;
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

/** A colour by area, hue and number, behind its own swatch. */
export function ColourPicker({
  label,
  value,
  onChange,
  onChangeEnd,
  wells = [],
}: {
  label: string;
  /** `#rrggbb` */
  value: string;
  /** While it moves. */
  onChange: (hex: string) => void;
  /** When the picker is closed, or the colour was typed. */
  onChangeEnd: (hex: string) => void;
  /** Colours with names, to be taken by a click. */
  wells?: readonly { name: string; colour: string }[];
}) {
  // Of the same value the same object: another one would take what is being typed for outdated.
  const colour = useMemo(() => parseColor(value).toFormat('hsb'), [value]);
  return (
    <ColorPicker value={colour} onChange={c => onChange(c.toString('hex').toLowerCase())}>
      <DialogTrigger onOpenChange={open => !open && onChangeEnd(value)}>
        <Swatch aria-label={`${label}: ${value}`} style={{ background: value }} />
        <Float placement="bottom end">
          <Form aria-label={label}>
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
          </Form>
        </Float>
      </DialogTrigger>
    </ColorPicker>
  );
}
