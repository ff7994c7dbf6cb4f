import styled from 'styled-components';

/** A paper label on the wall, beneath the print. */
export const WallLabel = styled.div`
  position: absolute;
  bottom: 9px;
  display: flex;
  align-items: center;
  height: 28px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  white-space: nowrap;
`;
