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

/** What is wrong with a picture, in its place. */
export const Fault = styled.p`
  position: absolute;
  left: 50%;
  top: 40%;
  transform: translate(-50%, -50%);
  background: var(--paper-high);
  padding: 12px 16px;
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
`;

/** Says what hangs on the wall in place of the treated photograph, and which key goes on from there. */
export const HangingLabel = styled(WallLabel).attrs({ role: 'status' })`
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
