import styled from 'styled-components';
import { WallLabel } from '../print/labels';

const Label = styled(WallLabel)`
  left: 31px;
  gap: 12px;
  padding: 0 12px;
  b {
    font-weight: 650;
  }
  kbd {
    font: 500 var(--t-small) var(--sans);
    border: 1px solid #a8a8a8;
    border-radius: 3px;
    padding: 0 5px;
  }
`;

/** Says on the wall that it is the bare photograph that hangs there, and how the treated one comes back. */
export function BareLabel() {
  return (
    <Label role="status">
      <b>Bare</b>
      <kbd>B</kbd>
      <span>or a press shows the treatment again</span>
    </Label>
  );
}
