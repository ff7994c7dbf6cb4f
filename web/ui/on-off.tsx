import { Switch } from 'react-aria-components';
import styled from 'styled-components';

const Track = styled(Switch)`
  width: 34px;
  height: 18px;
  border-radius: 9px;
  background: #8a8a8a;
  position: relative;
  cursor: pointer;
  flex: none;
  justify-self: end;
  i {
    position: absolute;
    width: 14px;
    height: 14px;
    border-radius: 50%;
    left: 2px;
    top: 2px;
    background: var(--paper-high);
  }
  &[data-selected] {
    background: var(--ink);
    i {
      left: 18px;
    }
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

/** On or off. */
export function OnOff({
  label,
  isOn,
  onChange,
}: {
  label: string;
  isOn: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <Track aria-label={label} isSelected={isOn} onChange={onChange}>
      <i />
    </Track>
  );
}
