import { memo, type RefObject } from 'react';
import { Input, NumberField } from 'react-aria-components';
import styled from 'styled-components';
import { inUnits, optionsOf, type Shown } from '../../words/number-format';

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

/** The number of a slider, to be typed as well. */
export const NumberBox = memo(function NumberBox({
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
