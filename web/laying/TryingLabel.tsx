import styled from 'styled-components';
import { WallLabel } from '../print/labels';
import type { Tried } from './LooksBoard';

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

/** Says on the wall what is being tried. */
export function TryingLabel({ tried: { name, strength } }: { tried: Tried }) {
  return (
    <Label role="status">
      <b>Trying</b>
      <span>
        {name}
        {strength < 1 ? `, at ${Math.round(strength * 100)}` : ''}
      </span>
      <kbd>Enter</kbd>
      <span>or a press lays it on</span>
    </Label>
  );
}
